import {
  ANY_GROUP,
  fieldAt,
  isDated,
  objectKeys,
  objectType,
  standsFor,
  type Catalogue,
  type ObjectKey,
  type OtherRecords,
  type Policy,
  type ReportDesign,
} from '@zawn/core';
import { Select } from 'antd';
import { fieldOptions, pathTitle } from '../../kernel/sentence/field-options';
import { useSession } from '../../platform/sessions/session';

interface Props {
  design: ReportDesign;
  beside: OtherRecords | undefined;
  onChange: (beside: OtherRecords | undefined) => void;
}

/** The fields of other records that can stand for one that the report groups by. */
function standing(catalogue: Catalogue, design: ReportDesign, object: ObjectKey, path: string) {
  const own = fieldAt(catalogue, design.question.object, path);
  return fieldOptions(catalogue, object, (field) => own !== undefined && standsFor(field, own));
}

/** The paths that a report groups and splits by. */
const pathsOf = ({ question: { groups = [] }, split }: ReportDesign): string[] => [
  ...new Set([...groups, ...(split ? [split] : [])].map(({ field }) => field)),
];

/** Other records as they are taken first: each group by the field of the same name, dated by their first date. */
function taken(catalogue: Catalogue, design: ReportDesign, object: ObjectKey): OtherRecords {
  const match = pathsOf(design).flatMap((path): [string, string][] => {
    const options = standing(catalogue, design, object, path);
    const same = options.find(({ value }) => value === path) ?? options.at(0);
    return same ? [[path, same.value]] : [];
  });
  const [date] = fieldOptions(catalogue, object, ({ type }) => isDated(type));
  return {
    object,
    match: Object.fromEntries(match),
    ...(design.period && date ? { period: date.value } : {}),
  };
}

const others = (policy: Policy): ObjectKey[] =>
  objectKeys.filter(
    (object) =>
      (objectType(object).category === 'work' || object === 'target') &&
      !objectType(object).ownedBy &&
      policy.allows(object, 'see'),
  );

/** Which records a figure is of: those of the report, or others that are told by the same groups and days. */
export function BesideFields({ design, beside, onChange }: Props) {
  const { catalogue, policy } = useSession();
  const { plural } = objectType(design.question.object);
  const named = (object: ObjectKey) => objectType(object).plural;
  return (
    <>
      <label className="figure-field">
        <span>Of</span>
        <Select<ObjectKey | 'own'>
          showSearch={{ optionFilterProp: 'label' }}
          aria-label="Of"
          value={beside?.object ?? 'own'}
          onChange={(object) => onChange(object === 'own' ? undefined : taken(catalogue, design, object))}
          options={[
            { value: 'own', label: `The ${plural.toLowerCase()} of this report` },
            ...others(policy).map((object) => ({
              value: object,
              label:
                object === design.question.object ? `Other ${named(object).toLowerCase()}` : named(object),
            })),
          ]}
        />
      </label>
      {beside && design.period && (
        <label className="figure-field">
          <span>Over the same period of</span>
          <Select<string>
            aria-label="Over the same period of"
            value={beside.period ?? ''}
            onChange={(period) => {
              const { period: _period, ...rest } = beside;
              onChange(period ? { ...rest, period } : rest);
            }}
            options={[
              ...fieldOptions(catalogue, beside.object, ({ type }) => isDated(type)).map(
                ({ value, label }) => ({
                  value,
                  label,
                }),
              ),
              { value: '', label: 'Any time' },
            ]}
          />
        </label>
      )}
      {beside &&
        pathsOf(design).map((path) => {
          const title = `By ${pathTitle(catalogue, design.question.object, path).toLowerCase()}, told by their`;
          return (
            <label key={path} className="figure-field">
              <span>{title}</span>
              <Select<string>
                aria-label={title}
                value={beside.match[path] ?? ''}
                onChange={(field) => {
                  const { [path]: _field, ...match } = beside.match;
                  onChange({ ...beside, match: field ? { ...match, [path]: field } : match });
                }}
                options={[
                  ...standing(catalogue, design, beside.object, path).map(({ value, label }) => ({
                    value,
                    label,
                  })),
                  { value: ANY_GROUP, label: 'Nothing: all of them in each' },
                  { value: '', label: 'Nothing: not told there' },
                ]}
              />
            </label>
          );
        })}
    </>
  );
}
