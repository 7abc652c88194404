import { fieldOf, offered, type AnyRecord, type Field, type FieldValue } from '@zawn/core';
import { Form, Input, Modal } from 'antd';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { FieldInput } from '../../kernel/records/field-input';
import { ReasonChips } from '../../kernel/records/reason-chips';
import { useSession } from '../../platform/sessions/session';

/** Lets a lead go: a reason of the list, a word on it, and a day to look again. */
export default function Disqualify({ lead, close }: { lead: AnyRecord; close: () => void }) {
  const { catalogue } = useSession();
  const [form] = Form.useForm<Record<string, FieldValue>>();
  const reason = Form.useWatch('disqualifyReason', form);
  const write = useWrite();
  const save = (body: Record<string, FieldValue>) =>
    write.mutate(
      { method: 'POST', path: `${pathOf('lead', lead.id)}/disqualify`, version: lead.version, body },
      { onSuccess: close },
    );
  return (
    <Modal
      open
      title={`Let ${String(lead.name)} go`}
      okText="Disqualify"
      okButtonProps={{ disabled: !reason, loading: write.isPending }}
      onOk={() => form.submit()}
      onCancel={close}
      destroyOnHidden
    >
      <Form form={form} layout="vertical" onFinish={save}>
        <Form.Item name="disqualifyReason" label="Why">
          <ReasonChips reasons={offered(fieldOf(catalogue, 'lead', 'disqualifyReason')?.choices)} />
        </Form.Item>
        <Form.Item name="disqualifyComment" label="Comment">
          <Input.TextArea autoSize={{ minRows: 2, maxRows: 6 }} maxLength={2000} />
        </Form.Item>
        <Form.Item
          name="lookAgainOn"
          label="Look again on"
          extra="Plans it on the day, for whoever owns the lead."
        >
          <FieldInput field={fieldOf(catalogue, 'lead', 'lookAgainOn') as Field} />
        </Form.Item>
      </Form>
    </Modal>
  );
}
