import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
beforeAll(() => {
  rep = stage.person;
});

const ROWS = 120;
const budgets = ['1.200,50 €', 'SEK 5.000', '£ 800'];

/** As a colleague abroad keeps it: names in two columns, a title above, a sum below, three currencies, odd cells. */
const file = [
  'Kontakte der Messe Kiel, Halle 4;;;;;;',
  '',
  'Nachname;Vorname;Firma;E-Mail-Adresse;Telefon;Land;Budget',
  ...Array.from({ length: ROWS }, (_, at) => {
    const phone = at % 3 === 0 ? 'siehe Karte' : `0431 96${String(1000 + at)}`;
    return `Weiß ${at};Jürgen;Förde Werft;j${at}@foerde.example;${phone};Deutschland;${budgets[at % 3]}`;
  }),
  'Summe;;;;;;280.020,00',
].join('\r\n');

/** Leads of the file as they are kept. */
const kept = () =>
  rep.driver.executeAsyncScript<{ total: number; rows: Record<string, unknown>[] }>(
    `const done = arguments[0];
     fetch('/api/v1/leads?organisation=' + encodeURIComponent('Förde Werft') + '&limit=200&sort=name')
       .then((r) => r.json()).then(done, (e) => done(String(e)));`,
  );

describe('a file from abroad', () => {
  it('is understood, says what it set aside and left empty, and goes in with one click', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.goTo('/imports');
    await rep.see('.file-drop');
    await rep.giveFile('messe.csv', file);
    await rep.read('joined, 1 of 2: Vorname, Nachname', '.file-table');
    await rep.read(`${ROWS / 3}\nwith a cell left empty`, '.import-counts');
    await rep.read('Row 1 above the headings was set aside', '.import-side');
    await rep.read('below the table was set aside as sums or remarks: “Summe 280.020,00”', '.import-side');
    await rep.read(`Telefon: ${ROWS / 3} cells cannot be read`, '.import-side');
    await rep.click(`Create ${ROWS}`);
    await rep.read(`${ROWS}\ncreated`, '.import-counts');
    await rep.button('Save the refused and noted rows');
    const { total, rows } = await kept();
    expect(total).toBe(ROWS);
    const first = rows.find(({ email }) => email === 'j1@foerde.example');
    expect(first).toMatchObject({
      name: 'Jürgen Weiß 1',
      phone: '+49431961001',
      country: 'DE',
      budget: 500_000,
      currency: 'SEK',
    });
    expect(rows.find(({ email }) => email === 'j0@foerde.example')).toMatchObject({
      phone: null,
      budget: 120_050,
      currency: 'EUR',
    });
    expect(new Set(rows.map(({ currency }) => currency))).toEqual(new Set(['EUR', 'SEK', 'GBP']));
  });

  it('with dates that can be read two ways asks before it goes in', async () => {
    await rep.goTo('/imports');
    await rep.see('.file-drop');
    await rep.giveFile(
      'deals.csv',
      'Deal;Value;Close\nWeir gauge;1200;03/04/2027\nLock gauge;900;05/06/2027\n',
    );
    await rep.read('First say in which order dates are written.', '.import-side');
    const isHeld = async () => !(await (await rep.button('Create 2')).isEnabled());
    await rep.until('nothing can be written yet', isHeld);
    await rep.click('That is right');
    await rep.readNoMore('First say', '.import-side');
    await rep.click('Create 2');
    await rep.read('2\ncreated', '.import-counts');
  });
});
