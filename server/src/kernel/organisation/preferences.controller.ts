import { Controller, Patch } from '@nestjs/common';
import Joi from 'joi';
import {
  MOST_REMIND_BEFORE,
  noticeKinds,
  customisable,
  isDay,
  isLocale,
  type Actor,
  type Preferences,
} from '@zawn/core';
import { validText } from '@zawn/core/validation';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from './organisation';
import { PreferenceStore } from './preferences';
import { ForPrograms } from '../../platform/sessions/scopes';

const id = Joi.number().integer().positive();

/** Lines of a day by their names, such as `activity-12`. */
const lines = Joi.array()
  .items(Joi.string().pattern(/^[a-z]+-\d{1,16}$/))
  .max(1000);

const dayOrNone = (label: string) => validText(isDay, `${label} is not a date (YYYY-MM-DD)`).allow(null);

const kinds = Joi.array()
  .items(Joi.string().valid(...noticeKinds.map(({ key }) => key)))
  .unique();

const preferences = Joi.object<Preferences>({
  defaultViews: Joi.object().pattern(Joi.string().valid(...customisable.map(({ key }) => key)), id),
  pinned: Joi.array()
    .items(Joi.string().pattern(/^(view|list)-\d{1,12}$/))
    .max(30)
    .messages({ 'array.max': 'At most 30 views and lists can be pinned' }),
  hiddenLists: Joi.array().items(id).max(500),
  awayFrom: dayOrNone('Away from'),
  awayUntil: dayOrNone('Away until'),
  substitute: id.allow(null),
  silenced: kinds,
  unmailed: kinds,
  inBrowser: kinds,
  remindBefore: Joi.number().integer().min(0).max(MOST_REMIND_BEFORE).label('Minutes before'),
  digestAt: Joi.string()
    .pattern(/^([01]\d|2[0-3]):[0-5]\d$/)
    .allow(null)
    .label('Time of the digest'),
  taskDefaults: Joi.object({
    name: Joi.string().max(200).label('Name'),
    when: Joi.string().max(60).label('When'),
    priority: Joi.string().valid('high', 'normal', 'low').label('Priority'),
    owner: id.label('Who'),
    description: Joi.string().max(5000).label('Description'),
  }).allow(null),
  locale: validText(isLocale, 'This is not a language such as en-GB').allow(null),
  theme: Joi.string().valid('light', 'dark').allow(null),
  hidesFirstHour: Joi.boolean().strict(),
  workOrder: Joi.object({
    day: validText(isDay, 'This is no day').required(),
    first: lines.required(),
    rest: lines.required(),
  }),
  dealArrangement: Joi.string().valid('months', 'stages'),
  home: Joi.string()
    .pattern(/^[a-z0-9-]{1,40}$/)
    .allow(null)
    .label('What Zawn opens with'),
});

@ForPrograms()
@Controller('api/v1/preferences')
export class PreferencesController {
  constructor(
    private readonly store: PreferenceStore,
    private readonly organisation: Organisation,
  ) {}

  /** Sets some of what a person set for themselves; the rest stays. */
  @Patch()
  async set(
    @CurrentActor() actor: Actor,
    @CheckedBody(preferences) some: CheckedAs<typeof preferences>,
  ): Promise<Preferences> {
    if (some.substitute != null) {
      const there = (await this.organisation.people()).find(({ id: each }) => each === some.substitute);
      if (!there?.active || there.id === actor.personId)
        throw invalidInput([
          { field: 'substitute', message: 'Who stands in: choose a colleague who is here' },
        ]);
    }
    return this.store.set(actor.personId, some);
  }
}
