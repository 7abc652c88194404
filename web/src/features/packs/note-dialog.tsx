import { useQuery } from '@tanstack/react-query';
import { objectType, type NoteInPackRequest, type SubjectKey } from '@zawn/core';
import { Form, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { SubjectsInput, type Subject } from '../../kernel/records/subjects-input';
import { ApiProblem } from '../../platform/api/client';
import { oneRecord } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { type Opened } from '../../platform/frame/opening';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useSession } from '../../platform/sessions/session';
import { useWhen, WhenInput } from '../activities/when-input';

interface Props {
  pack: number;
  kind: NoteInPackRequest['kind'];
  /** The record that is open, which it is about. */
  on: Opened | undefined;
  close: () => void;
}

const title = { decision: 'Note a decision', followUp: 'Plan a follow-up' } as const;

/** Notes a decision or a follow-up in a meeting, on the record that is open. */
export function NoteDialog({ pack, kind, on, close }: Props) {
  const { me, people } = useSession();
  const [text, setText] = useState('');
  const [words, setWords] = useState('in 3 working days');
  const [owner, setOwner] = useState<number>();
  const [about, setAbout] = useState<Subject[]>([]);
  const [complaint, setComplaint] = useState<string>();
  const when = useWhen(words);
  const write = useWrite({ quiet: true });
  const isReady = text.trim() !== '' && (kind === 'decision' || when !== undefined);
  const save = () => {
    if (!isReady) return;
    const [picked] = about;
    const record = on ?? picked;
    const body: NoteInPackRequest = {
      kind,
      text: text.trim(),
      ...(record ? { on: { object: record.object, id: record.id } } : {}),
      ...(kind === 'followUp' && when ? { dueOn: when.dueOn, owner: owner ?? me.id } : {}),
    };
    write.mutate(
      { method: 'POST', path: `/packs/${pack}/notes`, body },
      {
        onSuccess: close,
        onError: (error) =>
          setComplaint(error instanceof ApiProblem ? error.message : 'This could not be noted. Try again.'),
      },
    );
  };
  return (
    <Modal
      open
      title={title[kind]}
      okText={kind === 'decision' ? 'Note it' : 'Plan it'}
      onOk={save}
      onCancel={close}
      okButtonProps={{ disabled: !isReady, loading: write.isPending }}
      width={460}
    >
      <Form layout="vertical" onSubmitCapture={save}>
        {complaint && (
          <p className="left-out" role="alert">
            {complaint}
          </p>
        )}
        <Form.Item label="What" htmlFor="note-what">
          <Input.TextArea
            id="note-what"
            autoFocus
            maxLength={500}
            autoSize={{ minRows: 2, maxRows: 5 }}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) save();
            }}
          />
        </Form.Item>
        {on ? (
          <OnRecord object={on.object} id={on.id} />
        ) : (
          <Form.Item label="About">
            <SubjectsInput
              value={about}
              onChange={(all) => setAbout(all.slice(-1))}
              label="About"
              placeholder="The meeting as a whole, or a record by its name"
            />
          </Form.Item>
        )}
        {kind === 'followUp' && (
          <>
            <Form.Item label="By when">
              <WhenInput value={words} onChange={setWords} />
            </Form.Item>
            <Form.Item label="Who" htmlFor="note-who">
              <Select
                id="note-who"
                showSearch={{ optionFilterProp: 'label' }}
                value={owner ?? me.id}
                onChange={setOwner}
                options={peopleToChoose(people, me.id)}
              />
            </Form.Item>
          </>
        )}
      </Form>
    </Modal>
  );
}

function OnRecord({ object, id }: { object: SubjectKey; id: number }) {
  const { data } = useQuery(oneRecord(object, id));
  const { label, nameField } = objectType(object);
  return (
    <p className="note-on">
      <span className="second">On the {label.toLowerCase()}</span>{' '}
      {data ? String(data.record[nameField]) : '…'}
    </p>
  );
}
