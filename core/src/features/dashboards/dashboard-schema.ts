import Joi from 'joi';
import { type Catalogue } from '../../kernel/catalogue';
import { ME, ask } from '../../kernel/questions';
import { checkDesign } from '../../kernel/validation/design-schema';
import { checkQuestion } from '../../kernel/validation/question-schema';
import { checkAgainst, type Checked, type Fault } from '../../kernel/validation/record-schema';
import { movementGroups } from '../reports/movement';
import { checkReport, drawnAs, periodIn } from '../reports/report-schema';
import {
  LONGEST_NOTE,
  LOWEST_ROW,
  MOST_TILES,
  TALLEST_TILE,
  TILE_COLUMNS,
  type DashboardDesign,
  type Tile,
} from './dashboard';
import { readyReport } from './uses';
import { readyMade } from '../../kernel/views';

const id = Joi.number().integer().min(1);
const whole = Joi.object().unknown();
const at = Joi.object({
  x: Joi.number()
    .integer()
    .min(0)
    .max(TILE_COLUMNS - 1)
    .required(),
  y: Joi.number().integer().min(0).max(LOWEST_ROW).required(),
  w: Joi.number().integer().min(1).max(TILE_COLUMNS).required(),
  h: Joi.number().integer().min(1).max(TALLEST_TILE).required(),
})
  .custom((place: { x: number; w: number }, { error }) =>
    place.x + place.w > TILE_COLUMNS ? error('tile.beyond') : place,
  )
  .messages({ 'tile.beyond': `A tile lies within ${TILE_COLUMNS} columns` })
  .required();

const common = {
  key: Joi.string()
    .pattern(/^[a-z][a-z0-9]{0,19}$/i)
    .required(),
  title: Joi.string().trim().min(1).max(80),
  at,
};
const ready = Joi.string().max(60);

const tile = Joi.object({ kind: Joi.string().required() })
  .unknown()
  .when('.kind', {
    switch: [
      {
        is: 'report',
        then: Joi.object({
          ...common,
          report: id,
          ready,
          design: whole,
          look: Joi.object(drawnAs),
          shows: Joi.string().valid('table', 'both'),
        })
          .or('report', 'ready', 'design')
          .oxor('report', 'ready'),
      },
      {
        is: 'list',
        then: Joi.object({ ...common, view: id, ready, design: whole })
          .or('view', 'ready', 'design')
          .oxor('view', 'ready'),
      },
      {
        is: 'movement',
        then: Joi.object({ ...common, where: whole, by: Joi.string().valid(...movementGroups) }),
      },
      {
        is: 'note',
        then: Joi.object({ ...common, text: Joi.string().trim().min(1).max(LONGEST_NOTE).required() }),
      },
      { is: Joi.valid('waterline', 'upkeep'), then: Joi.object(common) },
    ],
    otherwise: Joi.object({ kind: Joi.forbidden() }).messages({
      'any.unknown': 'There is no such kind of tile',
    }),
  });

/** What is chosen once for everything that is shown together. */
export const choiceSchema = Joi.object({
  period: periodIn,
  team: id,
  person: Joi.alternatives(id, Joi.string().valid(ME)),
  pipeline: id,
});

const schema = Joi.object({
  version: Joi.number().valid(1).required(),
  tiles: Joi.array()
    .items(tile)
    .max(MOST_TILES)
    .required()
    .messages({ 'array.max': `A dashboard has at most ${MOST_TILES} tiles` }),
  choice: choiceSchema,
}).label('Dashboard');

/** What a tile asks, checked as whatever it shows is checked. */
function checkTile(tile: Tile, catalogue: Catalogue): Checked<Tile> {
  const missing = (message: string): Checked<Tile> => ({
    value: undefined,
    faults: [{ field: 'ready', message }],
  });
  const within = <T>({ value, faults }: Checked<T>, made: (value: T) => Tile): Checked<Tile> =>
    value === undefined
      ? {
          value: undefined,
          faults: faults.map(({ field, message }) => ({ field: `design.${field}`, message })),
        }
      : { value: made(value), faults: [] };
  switch (tile.kind) {
    case 'report':
      if (tile.ready !== undefined && !readyReport(tile.ready)) return missing('There is no such report');
      if (tile.design) return within(checkReport(tile.design, catalogue), (design) => ({ ...tile, design }));
      break;
    case 'list':
      if (tile.ready !== undefined && !readyMade.some(({ key }) => key === tile.ready))
        return missing('There is no such view');
      if (tile.design) return within(checkDesign(tile.design, catalogue), (design) => ({ ...tile, design }));
      break;
    case 'movement':
      if (tile.where)
        return within(checkQuestion(ask('deal', tile.where), catalogue), ({ where }) => ({
          ...tile,
          ...(where ? { where } : {}),
        }));
  }
  return { value: tile, faults: [] };
}

/** Checks a dashboard that came from outside: its shape, and what each of its tiles asks. */
export function checkDashboard(value: unknown, catalogue: Catalogue): Checked<DashboardDesign> {
  const checked = checkAgainst<DashboardDesign>(schema, value);
  if (!checked.value) return checked;
  const { tiles, ...rest } = checked.value;
  const faults: Fault[] = [];
  if (new Set(tiles.map(({ key }) => key)).size < tiles.length)
    faults.push({ field: 'tiles', message: 'Two tiles have the same key' });
  const known = tiles.map((tile, index) => {
    const { value: sound, faults: found } = checkTile(tile, catalogue);
    for (const { field, message } of found) faults.push({ field: `tiles.${index}.${field}`, message });
    return sound ?? tile;
  });
  return faults.length > 0 ? { value: undefined, faults } : { value: { ...rest, tiles: known }, faults: [] };
}
