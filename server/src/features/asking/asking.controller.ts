import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  ask,
  designOf,
  Meanings,
  printed,
  readTyped,
  wordRulesOf,
  type Actor,
  type Catalogue,
  type ObjectKey,
  type ReadAnswer,
  type ReadRequest,
  type View,
  type Vocabulary,
} from '@zawn/core';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';

/** Longer than any question, and short enough to be told so. */
const LONGEST = 100_000;
/** More names than an organisation has of a kind. */
const ALL = 2000;

/** So many people's words are kept at once. */
const MOST_KEPT = 100;

const named = ({ id, name }: { id: number; name: string }) => ({ id, name });

const request = Joi.object<ReadRequest>({ text: Joi.string().allow('').max(LONGEST).required() });

/** Questions typed in words. */
@Controller('api/v1/questions')
export class AskingController {
  private readonly kept = new WeakMap<Catalogue, Map<string, Meanings>>();

  constructor(
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /** How a text is read as a question, what of it was not understood, and what has two readings. Nothing is run. */
  @ForTokens('read', 'all')
  @Post('read')
  @HttpCode(200)
  async read(
    @CurrentActor() actor: Actor,
    @CheckedBody(request) { text }: CheckedAs<typeof request>,
  ): Promise<ReadAnswer> {
    const vocabulary = await this.vocabularyOf(actor);
    const reading = readTyped(text, vocabulary, this.meaningsOf(vocabulary));
    return reading.asked ? { ...reading, printed: printed(reading.asked, vocabulary) } : reading;
  }

  /** What words mean, looked up once for all who share the names: that takes longer than reading a question. */
  private meaningsOf(vocabulary: Vocabulary): Meanings {
    const { catalogue, ...names } = vocabulary;
    let known = this.kept.get(catalogue);
    if (!known || known.size >= MOST_KEPT) this.kept.set(catalogue, (known = new Map<string, Meanings>()));
    const key = JSON.stringify(names);
    let meanings = known.get(key);
    if (!meanings) known.set(key, (meanings = new Meanings(vocabulary)));
    return meanings;
  }

  /** The words that mean something to a person: of names only those of what they may see. */
  private async vocabularyOf(actor: Actor): Promise<Vocabulary> {
    const [{ catalogue, today }, settings, people, teams] = await Promise.all([
      this.gate.context(actor),
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.teams(),
    ]);
    const kept = async (object: 'pipeline' | 'stage' | 'list' | 'view') =>
      (await this.gate.records(actor, ask(object), { offset: 0, limit: ALL })).rows as unknown as (View & {
        object: ObjectKey;
      })[];
    const [pipelines, stages, lists, views] = await Promise.all(
      (['pipeline', 'stage', 'list', 'view'] as const).map(kept),
    );
    return {
      catalogue,
      today,
      calendar: {
        fiscalYearStart: settings.fiscalYearStart,
        fiscalYearName: settings.fiscalYearName,
        weekStart: settings.weekStart,
      },
      currency: settings.currency,
      people: people.map(named),
      teams: teams.map(named),
      pipelines: pipelines.map(named),
      stages: stages.map(named),
      lists: lists.map(({ id, name, object }) => ({ id, name, object })),
      views: views.flatMap((view) => {
        const question = designOf(view)?.question;
        return question ? [{ id: view.id, name: view.name, object: view.object, question }] : [];
      }),
      rules: wordRulesOf(settings),
    };
  }
}
