import { type OrganisationRow } from '../../platform/database/rows';
import { type Unit } from '../../kernel/records/unit';

const settingsIn = new WeakMap<Unit, Promise<OrganisationRow>>();

/** The settings as this unit found them: one that writes many deals reads them once. */
export function settingsOf(unit: Unit): Promise<OrganisationRow> {
  let settings = settingsIn.get(unit);
  if (!settings) {
    settings = unit.manager.findOneByOrFail<OrganisationRow>('organisation', { id: 1 });
    settingsIn.set(unit, settings);
  }
  return settings;
}
