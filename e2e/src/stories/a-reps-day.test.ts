import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
beforeAll(() => {
  rep = stage.person;
});

/** The deals of a cell of the grid, by the account on the strip. */
const cellOf = async (name: string) => {
  const strips = await rep.driver.findElements({ css: '.strip' });
  for (const strip of strips) {
    if ((await strip.getText()).includes(name)) {
      return rep.driver.executeScript<string>(
        'return arguments[0].closest("[data-cell]").dataset.cell',
        strip,
      );
    }
  }
  return undefined;
};

describe('from a captured lead to a won deal, by mouse', () => {
  it('signs in and sees the day: overdue, today, upcoming', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.see('.work');
    for (const part of ['Overdue', 'Today', 'Upcoming']) await rep.see(`[aria-label="${part}"] .work`);
    await rep.read('Thursday 19 November');
    await rep.read('won in Q3 2026/27');
  });

  it('adds a lead by hand, told what is missing', async () => {
    await rep.clickAt('[aria-label="Add"]');
    await rep.choose('Lead');
    await rep.type('#name', 'Sunniva Quillfeather');
    await rep.type('#organisation', 'Saltram Pools');
    await rep.type('#email', 'sunniva at saltram');
    await rep.click('Create lead');
    await rep.read('Email is not an email address', '.ant-modal');
    await rep.type('#email', 'sunniva@saltram-pools.example');
    await rep.click('Create lead');
    await rep.read('Sunniva Quillfeather', '.sheet');
    await rep.read('Adrift: no next step', '.sheet');
  });

  it('edits a field where it is read, and takes it back from the notice', async () => {
    await rep.clickAt('[data-field="city"]');
    await rep.driver.switchTo().activeElement().sendKeys('Saltram', Key.ENTER);
    await rep.read('Saltram', '[data-field="city"]');
    await rep.read('Changed town of lead', '.notice');
    await rep.click('Undo');
    await rep.readNoMore('Saltram', '[data-field="city"]');
    await rep.clickAt('[data-field="phone"]');
    await rep.driver.switchTo().activeElement().sendKeys('ring me', Key.ENTER);
    await rep.read('Phone is not a phone number', '.sheet');
    await rep.press(Key.ESCAPE);
  });

  it('writes a note and plans a follow-up, which stands on Today', async () => {
    await rep.click('Note');
    await rep.see('.note-text');
    await rep.type('.note-text', 'Two pools, one pump house.');
    await rep.click('Save note');
    await rep.read('Two pools, one pump house.', '.timeline');
    // What the note says is what is to be done, in other words.
    await rep.click('Make a task');
    await rep.until('the task begins with what the note says', async () => {
      const what = await rep.see('.timeline [aria-label="What"]');
      return (await what.getAttribute('value')) === 'Two pools, one pump house.';
    });
    await rep.type('.timeline [aria-label="What"]', 'Call about the pump house');
    await rep.type('.timeline [aria-label="When"]', 'today at 15:00');
    await rep.click('Plan for Thu 19 Nov, 15:00');
    await rep.read('Call about the pump house', '.next-step');
    await rep.clickAt('.sheet [aria-label="Close"]');
    await rep.clickAt('.rail a[title="Today"]');
    await rep.read('Call about the pump house', '[aria-label="Today"]');
  });

  it('does it there with a note and is asked for the next step', async () => {
    const line = await rep.driver.findElement({
      xpath:
        '//li[contains(@class, "work")][contains(., "Call about the pump house")]//button[normalize-space()="Done"]',
    });
    await line.click();
    await rep.type('.done-form textarea', 'Wants a survey before Christmas.');
    await rep.type('.done-form [aria-label="Next step"]', 'Offer survey dates');
    await rep.read('Say what and when', '.done-form');
    await rep.type('.done-form [aria-label="When"]', 'tomorrow');
    await rep.click('Done, next Fri 20 Nov');
    await rep.readNoMore('Call about the pump house', '[aria-label="Today"]');
    await rep.read('Offer survey dates', '[aria-label="Tomorrow"]');
  });

  it('moves a line to another day and time, and hands one to a colleague, in place', async () => {
    await rep.press('j');
    await rep.see('.work-active');
    const id = await rep.driver.executeScript<string>(
      `return document.querySelector('.work-active').dataset.activity`,
    );
    const line = `[data-activity="${id}"]`;
    const when = await rep.text(`${line} .work-when`);
    await rep.press('r');
    await rep.type('.move-form [aria-label="When"]', 'Thu 10:00');
    await rep.read('Move to Thu 26 Nov, 10:00', '.move-form');
    await rep.press(Key.ENTER);
    await rep.read('Changed due and time of activity', '.notice');
    await rep.read('10:00', `[aria-label="Upcoming"] ${line} .work-when`);
    await rep.press('z');
    await rep.read(when, `${line} .work-when`);
    await rep.clickAt(`${line} [aria-label^="Move or hand over"]`);
    await rep.clickAt('.move-form .ant-select:has([aria-label="Whose it is"])');
    await rep.press(...'Ewan', Key.ENTER);
    await rep.click('Hand to Ewan Castellin');
    await rep.read('Changed who of activity', '.notice');
    await rep.until('it is no line of hers', async () => (await rep.count(line)) === 0);
    await rep.press('z');
    await rep.see(line);
  });

  it('converts the lead, the timeline coming along', async () => {
    await rep.goTo('/leads');
    await rep.clickAt('.table-row');
    await rep.read('Sunniva Quillfeather', '.sheet');
    await rep.click('Convert');
    await rep.type('#convert-value', '42000');
    await rep.click('Convert: create contact, account, deal');
    await rep.read('£42,000', '.sheet .record-head');
    await rep.read('Enquiry checked', '.climb-levels [aria-current="step"]');
    await rep.read('Offer survey dates', '.next-step');
    await rep.read('Two pools, one pump house.', '.timeline');
    await rep.read('Wants a survey before Christmas.', '.timeline');
  });

  it('is offered the account that is there already, with the reason', async () => {
    const known = await rep.driver.executeAsyncScript<{ name: string; domain: string }>(
      `const done = arguments[0];
       fetch('/api/v1/session').then((answer) => answer.json()).then(({ csrf }) =>
         fetch('/api/v1/questions/records', {
           method: 'POST',
           headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf },
           body: JSON.stringify({ question: { version: 1, object: 'account' }, limit: 1 }),
         }).then((answer) => answer.json()).then(({ rows }) => done(rows[0])));`,
    );
    await rep.goTo('/leads');
    await rep.see('.table-row');
    await rep.press('c', 'l');
    await rep.type('#name', 'Odile Kessenich');
    await rep.type('#organisation', `${known.name} Ltd`);
    await rep.type('#email', `odile@${known.domain}`);
    await rep.click('Create lead');
    await rep.read('Odile Kessenich', '.sheet');
    await rep.click('Convert');
    await rep.read(`Same domain and similar name: ${known.name} Ltd / ${known.name}`, '.convert');
    await rep.click('Convert: create contact, deal; link account');
    await rep.read(known.name, '.sheet [data-field="account"]');
  });

  it('moves the deal in the grid by dragging, sums following, and undoes it', async () => {
    await rep.goTo('/deals');
    await rep.see('.strip');
    const before = await cellOf('Saltram Pools');
    const id = await rep.driver.executeScript<string>(
      `return [...document.querySelectorAll('.strip')].find((strip) => strip.textContent.includes('Saltram Pools')).dataset.deal`,
    );
    const total = await rep.text('.grid-foot > div:last-child');
    const sumOfStage = () => rep.text('.grid-row:nth-child(4) > div:last-child');
    const sum = await sumOfStage();
    await rep.drag(`[data-deal="${id}"] .strip-main`, '[data-cell="3|2026-12"]');
    await rep.until(
      'the deal stands in its new cell',
      async () => (await cellOf('Saltram Pools')) === '3|2026-12',
    );
    await rep.read('Survey done, closes', '.notice');
    await rep.until('the sum of the stage follows', async () => (await sumOfStage()) !== sum);
    expect((await rep.text('.grid-foot > div:last-child')).split('\n')[0]).toBe(total.split('\n')[0]);
    await rep.click('Undo');
    await rep.until('the deal stands where it was', async () => (await cellOf('Saltram Pools')) === before);
  });

  it('moves it by arrow keys, and the history records it', async () => {
    const id = await rep.driver.executeScript<string>(
      `const strip = [...document.querySelectorAll('.strip')].find((each) => each.textContent.includes('Saltram Pools'));
       strip.querySelector('.strip-main').focus();
       return strip.dataset.deal;`,
    );
    const [, month] = String(await cellOf('Saltram Pools')).split('|');
    await rep.press(Key.ARROW_UP);
    await rep.until('the deal is a stage on', async () => (await cellOf('Saltram Pools')) === `2|${month}`);
    // The focus goes along, so that the next key moves the same deal.
    await rep.press(Key.ARROW_UP, Key.ARROW_LEFT);
    await rep.until(
      'the deal is two cells on',
      async () =>
        String(await cellOf('Saltram Pools')).startsWith('3|') &&
        !String(await cellOf('Saltram Pools')).endsWith(month),
    );
    await rep.press(Key.ENTER);
    await rep.read('Stage moved from Survey booked to Survey done', '.timeline');
    await rep.read('Stage moved from Enquiry checked to Survey booked', '.timeline');
    await rep.read('Close date was', '.timeline');
    expect(await rep.driver.getCurrentUrl()).toContain(`open=deal-${id}`);
  });

  it('wins it at its final value', async () => {
    await rep.click('Close deal');
    await rep.read('Say how it ended', '.close-deal');
    await rep.clickAt('.close-deal .ant-segmented-item:first-child');
    await rep.click('They know us');
    await rep.click('Service nearby');
    await rep.type('.close-deal #value', '40000');
    await rep.type('.close-deal #wonBecause', 'Local service');
    await rep.click('Close as won at £40,000');
    await rep.read('Won on 19 Nov 2026', '.sheet');
    await rep.read('Won: Service nearby, They know us, Local service', '.timeline');
    await rep.clickAt('.sheet [aria-label="Close"]');
    await rep.until('the deal has left the grid', async () => (await cellOf('Saltram Pools')) === undefined);
  });

  it('loses another, which takes a reason from the list', async () => {
    await rep.clickAt('.strip .strip-main');
    await rep.see('.sheet .climb-levels');
    await rep.press('l');
    await rep.read('Choose a reason', '.close-deal');
    await rep.click('No decision');
    await rep.click('Close as lost');
    await rep.read('Lost on 19 Nov 2026', '.sheet');
    await rep.click('Reopen');
    await rep.read('Opened again once, had been lost: No decision', '.sheet');
    await rep.read('Reopened', '.timeline');
  });
});

describe('bringing in a file of leads', () => {
  const file = [
    'Name;Company;E-Mail;Interested in;Shoe size',
    'Jarl Tarnbrook;Rossfleet Pools;jarl@rossfleet-pools.example;waves;44',
    'Moira Kessenich;Fenholt Pools;moira at fenholt;water level;39',
    'Ivar Ekvall;Tallnas Pools;ivar@tallnas-pools.example;telemetry;43',
  ].join('\n');

  it('shows counts and refused rows, writes at once, and can be undone', async () => {
    await rep.goTo('/imports');
    await rep.see('.file-drop');
    await rep.giveFile('pools.csv', file);
    await rep.read('Email is not an email address', '.file-table');
    await rep.read('1 column left out', '.import-side');
    await rep.click('Create 2');
    await rep.read('2\ncreated', '.import-counts');
    await rep.read('1\nrefused', '.import-counts');
    await rep.click('See the leads');
    await rep.read('Jarl Tarnbrook', '.table');
    await rep.goTo('/imports');
    await rep.click('Undo the import of pools.csv');
    await rep.read('Undone', '.notice');
    await rep.read('undone', '.import-history');
    await rep.goTo('/leads?view=all-leads');
    await rep.see('.table-row');
    await rep.readNoMore('Jarl Tarnbrook', '.table');
  });

  it('says what is wrong with a file it cannot read', async () => {
    await rep.goTo('/imports');
    await rep.see('.file-drop');
    await rep.giveFile('empty.csv', '');
    await rep.read('The file is empty. Choose one with a heading row and at least one row.');
  });
});
