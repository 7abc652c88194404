import { fieldOf, fieldsOf, objectType, permittedObjects, type FieldRule, type ObjectKey } from '@zawn/core';
import { Button, Segmented, Select } from 'antd';
import { Trash2 } from 'lucide-react';
import { useSession } from '../../platform/sessions/session';

const ways = [
  { value: 'nothing', label: 'Not seen' },
  { value: 'see', label: 'Seen, not changed' },
] as const;

/** Fields that the role does not see, or sees and may not change. */
export function RoleFields({
  fields,
  change,
}: {
  fields: readonly FieldRule[];
  change: (fields: FieldRule[]) => void;
}) {
  const { catalogue } = useSession();
  const isRuled = (object: ObjectKey, field: string) =>
    fields.some((rule) => rule.object === object && rule.field === field);
  const isHidable = (object: ObjectKey, key: string) =>
    key !== objectType(object).nameField && key !== 'owner' && !isRuled(object, key);
  const options = permittedObjects().map((object) => ({
    label: objectType(object).plural,
    options: fieldsOf(catalogue, object)
      .filter(([key]) => isHidable(object, key))
      .map(([key, { label }]) => ({
        value: `${object} ${key}`,
        label: `${objectType(object).label}: ${label}`,
      })),
  }));
  return (
    <section className="role-part" aria-label="Fields">
      <h2>Fields</h2>
      {fields.length === 0 && <p className="second">Every field of what is reached is seen.</p>}
      <ul className="role-fields">
        {fields.map((rule) => {
          const label = `${objectType(rule.object).label}: ${fieldOf(catalogue, rule.object, rule.field)?.label ?? rule.field}`;
          return (
            <li key={`${rule.object} ${rule.field}`}>
              <span className="clip">{label}</span>
              <Segmented
                size="small"
                value={rule.may}
                options={[...ways]}
                onChange={(may) => change(fields.map((each) => (each === rule ? { ...rule, may } : each)))}
                aria-label={label}
              />
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} />}
                aria-label={`No rule for ${label}`}
                onClick={() => change(fields.filter((each) => each !== rule))}
              />
            </li>
          );
        })}
      </ul>
      <Select<string>
        size="small"
        className="role-add"
        value={null}
        options={options}
        showSearch={{ optionFilterProp: 'label' }}
        placeholder="A field not all may see"
        onChange={(chosen) => {
          const [object, field] = chosen.split(' ');
          change([...fields, { object: object as ObjectKey, field, may: 'nothing' }]);
        }}
        aria-label="Add a field"
      />
    </section>
  );
}
