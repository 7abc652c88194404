/** Everything here is made up: no such people, places or organisations exist. */

export const firstNames =
  'Ada Alma Anders Arne Astrid Bertil Birgit Bram Brid Carys Cato Cilla Conor Dagny Davin Delia Edda Eino Elin Enid Erland Ewan Fenna Finbar Flora Freja Gareth Gerda Greta Gwen Hamish Hanne Hedda Henrik Ida Ilsa Ines Ingrid Iona Ivar Jarl Jonna Joren Kaia Karin Kerr Kirsten Klara Lars Leif Lena Liesel Linnea Loic Lotta Lucan Maeve Magnus Maren Mathis Merete Mirja Moira Nadia Nell Niamh Nils Nora Odile Olaf Orla Oskar Otto Pella Per Petra Ragna Ravi Rhian Roald Ronan Rosa Runa Sanna Selma Signe Sorcha Stellan Sunniva Svea Tamsin Thea Tilda Tobias Ulla Una Vera Viggo Wanda Yara Ylva'.split(
    ' ',
  );

export const lastNames =
  'Abernock Aldgrave Ashwick Balfern Barrowmere Belstead Blackwell Borrowdell Brackley Brandtveit Carnmoor Castellin Cawdrey Corriveau Craigmuir Dalebank Dunmarrow Eastholm Ekvall Elverston Fairlough Falkenrath Farrowdale Fenwold Fjellgren Fosdyke Garrowby Glenhurst Granholt Greyling Haldane Hallonquist Harrowgate Haverlund Heathcombe Hollinger Inverlow Isaksund Kellaway Kessenich Kilbrannan Kirkhollow Lachmann Langmere Larkhaven Lindqvell Lochearn Longmarsh Lundeby Malverin Marchbank Merrowdale Mossgrave Netherby Nordhall Oakensen Ollerby Ormsgate Pellworm Penhallow Polgarrow Quillfeather Ravenglass Redmayne Rosskelly Rydemark Saltmarsh Sandvoss Seagrave Skerrold Stenhammer Stormont Strandvik Tarnbrook Thornquist Tideswell Tregarrow Ullscarf Vandermoor Venninger Wadeford Wansbeck Westerholt Whinfell Wolfenden Yarrowby Zetterlund'.split(
    ' ',
  );

export interface Place {
  name: string;
  country: 'GB' | 'IE' | 'DE' | 'FR' | 'SE';
}

const inCountry = (country: Place['country'], names: string): Place[] =>
  names.split(' ').map((name) => ({ name: name.replaceAll('_', ' '), country }));

export const places: Place[] = [
  ...inCountry(
    'GB',
    'Seagrave Tolmouth Marrick_Haven Skerrow Pellport Brannock Aldersea Carrowmouth Dunskerry Fallow_Sound Gannet_Bay Harrowness Inchmarrow Kelderby Lowenfirth Marlwater Nessmouth Ottergate Penmarrow Quernhaven Rossfleet Saltram_Head Tarnwick Ullerby Varrow Westskerry Yarlness Brackhope Cawlmere Drumfell Eskmarrow Fenholt Glasswater Hollowmere Kinloss_Weir Langbeck Mirkdale Northskerry Oxenwater Pikelaw Reedsmouth Stannock',
  ),
  ...inCountry('IE', 'Ballyskerra Carrigmore_Quay Dunlarragh Kilmorran Inishcarra Rathcullen'),
  ...inCountry(
    'DE',
    'Wellerbruck Hainfurt Norderlund Altenwehr Kreuzsee Steinhafen Wendelau Obermarsch Felsenau',
  ),
  ...inCountry(
    'FR',
    'Port-Malverin Saint-Oreval Brevannes-sur-Lys Clairmarais Vallorque Montsevel Cap-Arzenne',
  ),
  ...inCountry('SE', 'Lindvik Norrholmen Sandskar Ekershamn Vastermark Tallnas'),
];

export const industries = {
  harbour: ['Harbour Trust', 'Port Authority', 'Marina', 'Pilots'],
  water: ['Water', 'Rivers Board'],
  hydropower: ['Hydro', 'Power and Weir'],
  fishFarm: ['Sea Farms', 'Salmon'],
  ski: ['Ski Area', 'Mountain Lifts'],
  vineyard: ['Vineyards', 'Wine Growers'],
  research: ['Marine Station', 'Field Institute'],
} as const;

export type Industry = keyof typeof industries;

/** Lists of choices that are the company's own, as pairs of key and label. */
export const ownChoices = {
  industry: [
    ['harbour', 'Harbour'],
    ['water', 'Water utility'],
    ['hydropower', 'Hydropower'],
    ['fishFarm', 'Fish farm'],
    ['ski', 'Ski area'],
    ['vineyard', 'Vineyard'],
    ['research', 'Research station'],
    ['other', 'Other'],
  ],
  lossReason: [
    ['price', 'Price'],
    ['competitor', 'Chose another supplier'],
    ['budget', 'Budget withdrawn'],
    ['timing', 'Wrong time'],
    ['fit', 'Does not fit the site'],
    ['noDecision', 'No decision'],
    ['noContact', 'Contact lost'],
  ],
  productFamily: [
    ['station', 'Stations'],
    ['sensor', 'Sensors'],
    ['logger', 'Loggers and telemetry'],
    ['service', 'Services'],
    ['data', 'Data service'],
  ],
  winReason: [
    ['price', 'Price'],
    ['fit', 'Fits the site best'],
    ['service', 'Service nearby'],
    ['trust', 'They know us'],
    ['delivery', 'Delivery in time'],
    ['data', 'Data service'],
  ],
} as const;

/** Which team serves which industry. */
export const teamOf: Record<Industry, 'coast' | 'rivers' | 'uplands'> = {
  harbour: 'coast',
  research: 'coast',
  water: 'rivers',
  hydropower: 'rivers',
  fishFarm: 'uplands',
  ski: 'uplands',
  vineyard: 'uplands',
};

export const roles = [
  'Harbour master',
  'Technical manager',
  'Head of operations',
  'Purchasing',
  'Managing director',
  'Site engineer',
  'Environmental officer',
  'Maintenance lead',
  'Head of finance',
  'Research lead',
];

/** What is sold, with a usual price in pounds. */
export const stations: Record<Industry, [string, number][]> = {
  harbour: [
    ['tide and wave station', 46_000],
    ['wave buoy telemetry', 28_000],
    ['quay water-level gauges', 18_500],
    ['port weather mast', 33_000],
  ],
  research: [
    ['coastal weather mast', 31_000],
    ['logger refit', 12_500],
    ['lagoon level network', 52_000],
  ],
  water: [
    ['reservoir level network', 58_000],
    ['river gauging stations', 41_000],
    ['flood warning telemetry', 74_000],
  ],
  hydropower: [
    ['intake level sensors', 36_000],
    ['snowmelt forecasting masts', 62_000],
    ['tailrace gauging', 27_000],
  ],
  fishFarm: [
    ['pen current and wave sensors', 22_000],
    ['oxygen and weather telemetry', 26_500],
  ],
  ski: [
    ['slope wind masts', 38_000],
    ['snow depth network', 29_000],
  ],
  vineyard: [
    ['frost warning stations', 14_500],
    ['leaf wetness loggers', 8_200],
  ],
};

export const renewals: [string, number][] = [
  ['data service, 12 months', 6_400],
  ['calibration contract', 9_800],
  ['service and data, 24 months', 17_500],
];

export const calls = [
  'Call about the survey',
  'Call on the open points',
  'Ask about the budget',
  'Chase the decision',
  'Call on delivery dates',
  'Check who else decides',
];
export const meetings = [
  'Site visit',
  'Meet at the quay',
  'Walk through the proposal',
  'Video call with engineering',
  'Survey on site',
];
export const tasks = [
  'Send the data sheet',
  'Write the proposal',
  'Check mast heights',
  'Send reference sites',
  'Price the telemetry',
  'Prepare the survey report',
];
export const firstTouches = [
  'First call',
  'Call back the enquiry',
  'Introduce ourselves',
  'Ask what they measure today',
];

export const results = [
  'They want two sites instead of one; will send the drawings.',
  'Budget is in the plan for next year, decision by the board.',
  'Spoke to the deputy. Call again after the holidays.',
  'Old gauge failed twice this winter. Wants a date for the survey.',
  'Asked for a reference at a harbour of the same size.',
  'Happy with the visit. Waiting for the purchasing form.',
  'Comparing us with one other supplier, price is close.',
  'No power at the site: needs the solar option.',
  'Wants the data service included for the first year.',
  'Left word with the office.',
];

export const noteTexts = [
  'Two masts on the east mole, one has to come down by spring. Access only at low water.',
  'The board meets on the first Tuesday. Papers must be in a week before.',
  'Their data goes to a public page, so downtime is noticed at once.',
  'Prefers mail over calls. Out of office every other Friday.',
  'Mentioned a neighbouring site that had the same trouble. Ask for an introduction.',
  'Framework agreement runs out next year; purchasing wants three quotes.',
];

export const interests = [
  'water level',
  'waves',
  'weather masts',
  'telemetry',
  'calibration',
  'data service',
  'snow depth',
  'frost warning',
];
export const competitors = [
  ['halvorsund', 'Halvorsund Sensors'],
  ['pentrose', 'Pentrose Metering'],
  ['delmark', 'Delmark Hydrographic'],
  ['inHouse', 'Their own workshop'],
] as const;
export const winReasons = [
  { comment: 'Local service', reasons: ['service'] },
  { comment: 'Survey convinced the engineers', reasons: ['fit', 'trust'] },
  { comment: 'Reference site nearby', reasons: ['trust'] },
  { comment: 'Best price over five years', reasons: ['data', 'price'] },
  { comment: 'Delivery date', reasons: ['delivery'] },
];
export const campaigns = [
  'Spring harbour mailing',
  'Flood season webinar',
  'Vineyard frost days',
  'Coast fair stand',
];
