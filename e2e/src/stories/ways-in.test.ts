import { createTransport } from 'nodemailer';
import { By } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { send, signIn } from '../wire';
import { setStage } from './stage';

/** Nobody fills in a form faster than this, and a form believes nobody who does. */
const READING_MS = 2200;
const TOLD_WITHIN_MS = 2000;

const stage = setStage();
let rep: Person;
let visitor: Person;
let second: Browser;

beforeAll(async () => {
  rep = stage.person;
  second = await openBrowser({ width: 390, height: 844 });
  visitor = new Person(second.driver, stage.server.address);
});
afterAll(() => second.quit());

const unread = async () => Number((await rep.count('.bell-count')) > 0 ? await rep.text('.bell-count') : 0);

describe('a form on the website', () => {
  it('is designed with a look at it that follows every change, and published', async () => {
    await rep.signInAs('Bram Tideswell');
    await rep.goTo('/forms');
    await rep.click('Site survey');
    await rep.type('.form-editor textarea', 'Ask us to come and look');
    const preview = rep.driver.findElement(By.css('.form-preview iframe'));
    await rep.until('the preview follows', async () =>
      ((await preview.getAttribute('srcdoc')) ?? '').includes('Ask us to come and look'),
    );
    await rep.clickAt('[aria-label="Who gets the leads"]');
    await rep.press(...'Tamsin');
    await rep.choose('Tamsin Rudd');
    await rep.click('Take out Country');
    await rep.click('Save and publish');
    await rep.read('Changed', '.notice');
    await rep.signOut();
  });

  it('is filled in on a phone, and its owner hears of the lead within two seconds', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.see('.bell');
    const before = await unread();

    await visitor.goTo('/stand-ins/website?utm_campaign=bar-buoys');
    await visitor.driver.switchTo().frame(await visitor.see('iframe'));
    const opened = Date.now();
    await visitor.read('Ask us to come and look');
    expect(await visitor.count('#field-country')).toBe(0);
    await visitor.type('#field-name', 'Morwenna Skerry');
    await visitor.type('#field-email', 'morwenna at the harbour');
    await visitor.type('#field-phone', '01632 960 118');
    await visitor.type('#field-description', 'The gauge at the slip reads nonsense.');
    await visitor.clickAt('#consent');
    await visitor.until('they have read it', () => Promise.resolve(Date.now() - opened > READING_MS));
    await visitor.clickAt('button');
    await visitor.read('Not sent yet');
    await visitor.type('#field-email', 'morwenna@skerry-harbour.example');
    await visitor.clickAt('button');
    await visitor.read('Thank you');
    const sent = Date.now();

    await rep.until('the bell counts one more', async () => (await unread()) === before + 1);
    expect(Date.now() - sent).toBeLessThan(TOLD_WITHIN_MS);
    await rep.clickAt('.bell');
    await rep.read('New lead: Morwenna Skerry');
    await rep.read('+441632960118');
  });

  it('stands on the lead’s story with the campaign and what was agreed to', async () => {
    await rep.goTo('/notices');
    await rep.clickAt('.notices a');
    await rep.read('Filled in “Site survey”', '.timeline');
    await rep.read('The gauge at the slip reads nonsense.', '.timeline');
    await rep.read('campaign: bar-buoys', '.timeline');
    await rep.read('Agreed to:', '.timeline');
    await rep.read('bar-buoys', '[data-field="campaign"]');
  });

  it('works without the rest of the application', async () => {
    await visitor.driver.switchTo().defaultContent();
    await visitor.goTo('/f/site-survey');
    await visitor.see('form');
    const loaded = await visitor.driver.executeScript<string[]>(
      `return performance.getEntriesByType('resource').map(({ name }) => new URL(name).pathname)`,
    );
    expect(loaded.every((path) => path.startsWith('/f/'))).toBe(true);
    const wide = await visitor.driver.executeScript<boolean>(
      'return document.documentElement.scrollWidth > innerWidth',
    );
    expect(wide).toBe(false);
  });
});

describe('an email to a capture address', () => {
  it('becomes a lead while operations look on', async () => {
    await rep.signOut();
    await rep.signInAs('Bram Tideswell');
    await rep.goTo('/setup/mail');
    await rep.read('No email yet', '.arrivals');
    const transport = createTransport({ host: '127.0.0.1', port: stage.server.mailPort, ignoreTLS: true });
    await transport.sendMail({
      from: 'Corin Trevanion <corin@trevanion-mills.example>',
      to: 'tenders@brackwater.example',
      subject: 'Tender: three river gauges',
      text: 'Please see our notice.\n\n-- \nCorin Trevanion\nBuyer\n01632 960 447',
    });
    transport.close();
    await rep.read('Tender: three river gauges', '.arrivals');
    await rep.click('became a lead');
    await rep.read('Corin Trevanion', '.sheet');
    await rep.read('Buyer, Trevanion Mills', '.sheet');
    await rep.read('Please see our notice.', '.timeline');
    await rep.read('+44 1632 960447', '[data-field="phone"]');
    await rep.read('Tender notice', '[data-field="source"]');
  });

  it('comes to its owner’s own mailbox too', async () => {
    const { headers } = await signIn(stage.server, 'bram.tideswell@brackwater.example');
    const question = {
      version: 1,
      object: 'lead',
      where: { field: 'name', is: 'is', value: 'Corin Trevanion' },
    };
    const { body } = await send(stage.server, 'POST', '/questions/records', { question, limit: 1 }, headers);
    const [{ owner }] = body.rows as { owner: number }[];
    const { body: person } = await send(stage.server, 'GET', `/people/${owner}`, undefined, headers);
    const { name } = person.record as { name: string };
    await rep.signOut();
    await rep.signInAs(name);
    await rep.until('the copy is there', async () => {
      await rep.goTo('/stand-ins/mailbox');
      return (await rep.text('main')).includes('New lead: Corin Trevanion');
    });
  });
});
