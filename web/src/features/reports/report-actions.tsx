import { objectType, type ReportDesign } from '@zawn/core';
import { App, Button, Dropdown, Form, Input, Modal, Radio, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { type ShownReport } from './use-report';

interface Values {
  name: string;
  about: string;
  sharing: 'private' | 'team' | 'everyone';
}

interface DialogProps {
  title: string;
  values: Values;
  /** The report that is called or shared otherwise; a new one when left out. */
  existing?: { id: number; version: number };
  design: ReportDesign;
  onSaved: (id: number) => void;
  close: () => void;
}

/** What a report is called and shows, and who sees it. */
function SaveReport({ title, values: first, existing, design, onSaved, close }: DialogProps) {
  const [values, setValues] = useState(first);
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<{ id: number }>({ quiet: true });
  const save = () => {
    const { name, about, sharing } = values;
    const body = { name: name.trim(), about: about.trim() || null, sharing };
    write.mutate(
      existing
        ? { method: 'PATCH', path: `/reports/${existing.id}`, version: existing.version, body }
        : {
            method: 'POST',
            path: '/reports',
            body: { ...body, object: design.question.object, design: JSON.stringify(design) },
          },
      {
        onSuccess: ({ value }) => {
          onSaved(value.id);
          close();
        },
        onError: (error) =>
          setComplaint(
            error instanceof ApiProblem
              ? (error.fault('name') ?? error.message)
              : 'This could not be saved. Try again.',
          ),
      },
    );
  };
  return (
    <Modal
      open
      title={title}
      okText="Save report"
      onCancel={close}
      onOk={save}
      okButtonProps={{ disabled: values.name.trim() === '', loading: write.isPending }}
      width={460}
    >
      <Form layout="vertical" onSubmitCapture={save}>
        <Form.Item
          label="Name"
          htmlFor="report-name"
          help={complaint}
          validateStatus={complaint ? 'error' : ''}
        >
          <Input
            id="report-name"
            autoFocus
            maxLength={80}
            value={values.name}
            onChange={(event) => setValues({ ...values, name: event.target.value })}
            onPressEnter={(event) => {
              event.preventDefault();
              if (values.name.trim()) save();
            }}
          />
        </Form.Item>
        <Form.Item label="What it shows, in a sentence" htmlFor="report-about">
          <Input.TextArea
            id="report-about"
            maxLength={300}
            autoSize={{ minRows: 2, maxRows: 4 }}
            value={values.about}
            onChange={(event) => setValues({ ...values, about: event.target.value })}
          />
        </Form.Item>
        <Form.Item label="Seen by">
          <Radio.Group
            value={values.sharing}
            onChange={(event) => setValues({ ...values, sharing: event.target.value as Values['sharing'] })}
            options={[
              { value: 'private', label: 'Only me' },
              { value: 'team', label: 'My team' },
              { value: 'everyone', label: 'Everyone' },
            ]}
          />
        </Form.Item>
        <p className="second">Each person sees in it only what they may see.</p>
      </Form>
    </Modal>
  );
}

/** What can be done with the report on the screen: keep it, call it otherwise, share it, let it go. */
export function ReportActions({ shown }: { shown: ShownReport }) {
  const { base, asked, isChanged, reset } = shown;
  const { policy } = useSession();
  const { modal } = App.useApp();
  const [dialog, setDialog] = useState<'saveAs' | 'rename'>();
  const write = useWrite();
  const navigate = useNavigate();
  const kept = base.kind === 'kept' ? base.report : undefined;
  const isMine = kept !== undefined && policy.mayChangeShared('report', kept);
  const save = () => {
    if (!kept || !isMine) {
      setDialog('saveAs');
      return;
    }
    write.mutate(
      {
        method: 'PATCH',
        path: `/reports/${kept.id}`,
        version: kept.version,
        body: { design: JSON.stringify(asked) },
      },
      { onSuccess: () => void navigate(`/reports/${kept.id}`, { replace: true }) },
    );
  };
  const remove = () => {
    if (!kept) return;
    modal.confirm({
      title: `Delete the report “${kept.name}”?`,
      content: `The ${objectType(kept.object).plural.toLowerCase()} it is about stay. This can be undone.`,
      okText: 'Delete report',
      okButtonProps: { danger: true },
      onOk: () =>
        write.mutateAsync({ method: 'DELETE', path: `/reports/${kept.id}`, version: kept.version }).then(
          () => navigate('/reports'),
          () => undefined,
        ),
    });
  };
  useShortcuts('Report', [
    { keys: 's', does: 'Save the report', run: () => (isChanged ? save() : undefined) },
  ]);
  const items: MenuProps['items'] = [
    { key: 'saveAs', label: 'Save as a report of my own…' },
    ...(kept && isMine ? [{ key: 'rename', label: 'Rename and share…' }] : []),
    { key: 'link', label: 'Copy a link' },
    { key: 'print', label: 'Print' },
    ...(kept && isMine
      ? [{ type: 'divider' as const }, { key: 'delete', label: 'Delete the report…', danger: true }]
      : []),
  ];
  const actions: Record<string, () => void> = {
    saveAs: () => setDialog('saveAs'),
    rename: () => setDialog('rename'),
    link: () => void navigator.clipboard.writeText(location.href),
    print: () => window.print(),
    delete: remove,
  };
  const about = base.kind === 'ready' ? base.ready.about : (kept?.about ?? '');
  const name = base.kind === 'ready' ? `${base.ready.name}, mine` : kept ? `${kept.name}, copy` : '';
  return (
    <>
      {isChanged && (
        <>
          {base.kind !== 'new' && (
            <Button type="text" onClick={reset}>
              Discard changes
            </Button>
          )}
          <Button onClick={save}>{kept && isMine ? 'Save' : 'Save report'}</Button>
        </>
      )}
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => actions[key]() }}>
        <Button icon={<Ellipsis size={16} />} aria-label="Report actions" />
      </Dropdown>
      {dialog === 'rename' && kept && (
        <SaveReport
          title="Rename and share the report"
          values={{ name: kept.name, about: kept.about ?? '', sharing: kept.sharing }}
          existing={kept}
          design={asked}
          onSaved={() => undefined}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'saveAs' && (
        <SaveReport
          title="Save as a report"
          values={{ name, about, sharing: 'private' }}
          design={asked}
          onSaved={(id) => void navigate(`/reports/${id}`)}
          close={() => setDialog(undefined)}
        />
      )}
    </>
  );
}
