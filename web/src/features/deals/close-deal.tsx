import { builtIn, fieldOf, offered, type AnyRecord, type Field, type FieldValue } from '@zawn/core';
import { Button, Form, Input, Modal } from 'antd';
import { useRef } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { money } from '../../platform/frame/format';
import { FieldInput } from '../../kernel/records/field-input';
import { ReasonChips } from '../../kernel/records/reason-chips';
import { useSession } from '../../platform/sessions/session';

export type Ending = 'win' | 'lose';

interface Props {
  deal: AnyRecord;
  ending: Ending;
  close: () => void;
}

const field = (key: string) => fieldOf(builtIn, 'deal', key) as Field;

/** Closes a deal: won at its final value, or lost for a reason of the list. */
export default function CloseDeal({ deal, ending, close }: Props) {
  const [form] = Form.useForm<Record<string, FieldValue>>();
  const body = useRef<HTMLDivElement>(null);
  const { catalogue } = useSession();
  const write = useWrite();
  const currency = String(deal.currency);
  const value = Form.useWatch('value', form) ?? deal.value;
  const save = (details: Record<string, FieldValue>) =>
    write.mutate(
      { method: 'POST', path: `${pathOf('deal', deal.id)}/${ending}`, version: deal.version, body: details },
      { onSuccess: close },
    );
  return (
    <Modal
      open
      title={ending === 'win' ? `Won: ${String(deal.name)}` : `Lost: ${String(deal.name)}`}
      width={540}
      afterOpenChange={(isOpen) =>
        isOpen && body.current?.querySelector<HTMLElement>('input, button')?.focus()
      }
      onCancel={close}
      footer={[
        <Button key="cancel" onClick={close}>
          Cancel
        </Button>,
        <Button
          key="save"
          type="primary"
          danger={ending === 'lose'}
          loading={write.isPending}
          onClick={() => form.submit()}
        >
          {ending === 'win' ? `Mark as won at ${money(Number(value), currency)}` : 'Mark as lost'}
        </Button>,
      ]}
    >
      <div ref={body}>
        <Form
          form={form}
          layout="vertical"
          requiredMark={false}
          onFinish={save}
          initialValues={{ value: deal.value }}
        >
          {ending === 'win' ? (
            <>
              <Form.Item
                name="value"
                label="Final value"
                rules={[{ required: true, message: 'Enter the final value' }]}
              >
                <FieldInput field={field('value')} currency={currency} />
              </Form.Item>
              <Form.Item name="wonBecause" label="Won because">
                <Input maxLength={200} onPressEnter={() => form.submit()} />
              </Form.Item>
            </>
          ) : (
            <>
              <Form.Item
                name="lossReason"
                label="Reason"
                rules={[{ required: true, message: 'Choose a reason' }]}
              >
                <ReasonChips reasons={offered(fieldOf(catalogue, 'deal', 'lossReason')?.choices)} />
              </Form.Item>
              <Form.Item name="lossComment" label="Comment">
                <Input.TextArea autoSize={{ minRows: 2, maxRows: 5 }} maxLength={2000} />
              </Form.Item>
              <div className="form-pair">
                <Form.Item name="lostTo" label="Lost to">
                  <Input maxLength={200} />
                </Form.Item>
                <Form.Item name="tryAgainOn" label="Try again on">
                  <FieldInput field={field('tryAgainOn')} />
                </Form.Item>
              </div>
            </>
          )}
        </Form>
      </div>
    </Modal>
  );
}
