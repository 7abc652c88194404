import { fieldsOf, holdsFile, type ObjectKey } from '@zawn/core';
import { Button, Select } from 'antd';
import { useWrite } from '../../platform/api/use-write';
import { useWanted } from '../../platform/frame/use-wanted';
import { useQuickAdd, type QuickAdd } from '../../kernel/records/quick-fields';
import { useSession } from '../../platform/sessions/session';

const SETTABLE = new Set(['edit', 'once']);

/** Which fields the short form for a new record asks for. */
export function QuickAddSetup({ object }: { object: ObjectKey }) {
  const setUp = useQuickAdd(object);
  return setUp && <QuickFields object={object} {...setUp} />;
}

function QuickFields({ object, own, chosen }: { object: ObjectKey } & QuickAdd) {
  const { catalogue } = useSession();
  const write = useWrite();
  const [shown, want] = useWanted(chosen, (keys) => {
    const fields = JSON.stringify(keys);
    return write.mutateAsync(
      own
        ? { method: 'PATCH', path: `/quick-adds/${own.id}`, version: own.version, body: { fields } }
        : { method: 'POST', path: '/quick-adds', body: { object, fields } },
    );
  });
  return (
    <div className="quick-add-setup">
      <h2>Fields of the quick form, in order</h2>
      <Select
        mode="multiple"
        value={[...shown]}
        onChange={(keys: string[]) => keys.length > 0 && want(keys)}
        showSearch={{ optionFilterProp: 'label' }}
        options={fieldsOf(catalogue, object)
          .filter(([, field]) => (field.set === undefined || SETTABLE.has(field.set)) && !holdsFile(field))
          .map(([key, { label }]) => ({ value: key, label }))}
        aria-label="Fields of the short form"
      />
      {own && (
        <Button
          type="link"
          size="small"
          onClick={() =>
            write.mutate({ method: 'DELETE', path: `/quick-adds/${own.id}`, version: own.version })
          }
        >
          As usual
        </Button>
      )}
    </div>
  );
}
