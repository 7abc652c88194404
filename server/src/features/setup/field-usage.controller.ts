import { Controller, Get } from '@nestjs/common';
import { objectType, type Actor, type Usage, type View } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { May } from '../../platform/sessions/may';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Database } from '../../platform/database/database';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { formsAsking, rulesAsking, viewsAsking } from './field-usage';

/** Who would miss one of the organisation's own fields. */
@May('setUpFields', 'Your role does not let you change fields.')
@ForPrograms()
@Controller('api/v1/custom-fields')
export class FieldUsageController {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /** Who would miss one of the organisation’s own fields: rules and forms by name, views as far as they are shared. */
  @Get(':id/usage')
  async ofField(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    const field = await this.gate.find(actor, 'customField', id);
    const own = { object: field.object as View['object'], key: String(field.key) };
    const { manager } = this.database.reading;
    const catalogue = await this.organisation.catalogue();
    const views = await viewsAsking(manager, catalogue, own);
    const shared = await this.gate.visible(
      actor,
      'view',
      views.map((view) => view.id),
    );
    const rules = await rulesAsking(manager, catalogue, own);
    return {
      people: [],
      views: views.map((view) => (shared.has(view.id) ? view.name : 'a private view')),
      rules: [
        ...rules.map(
          ({ object, record }) => `the ${objectType(object).label.toLowerCase()} “${record.name}”`,
        ),
        ...(await formsAsking(manager, own)),
      ],
    };
  }
}
