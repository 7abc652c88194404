import { useQuery } from '@tanstack/react-query';
import {
  changesFrom,
  isWholeCondition,
  readRules,
  type Catalogue,
  type RecordOf,
  type RoleException,
  type RolePreview,
  type RoleRules,
} from '@zawn/core';
import { Alert, Button, Select } from 'antd';
import { useMemo, useState } from 'react';
import { ApiProblem, call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSettled } from '../../platform/frame/use-settled';
import { useSession } from '../../platform/sessions/session';
import { ReachTable } from './reach-table';
import { rebaseRules } from './rebase-rules';
import { RoleActs } from './role-acts';
import { RoleExceptions, type DraftException } from './role-exceptions';
import { RoleFields } from './role-fields';
import { RoleHolders } from './role-holders';
import { PreviewList } from './role-preview';
import { KeptName, KeptText } from '../../platform/frame/kept-field';

type Role = RecordOf<'role'>;
type Draft = Omit<RoleRules, 'exceptions'> & { exceptions: readonly DraftException[] };

const SETTLED_MS = 500;

const sells = [
  { value: 'always', label: 'has deals and a target' },
  { value: 'sometimes', label: 'may have deals and a target' },
  { value: 'never', label: 'has no deals of their own' },
] as const;

/** Exceptions that do not say yet which records they mean would mean all: they are not kept. */
const isWholeIn =
  (catalogue: Catalogue) =>
  (each: DraftException): each is RoleException =>
    each.where !== undefined && isWholeCondition(catalogue, each.object, each.where);

/** One role: how far it reaches, its exceptions, fields and acts; who would gain and lose what is shown before it is kept. */
export function RoleEditor({ role }: { role: Role }) {
  const write = useWrite<Role>({ quiet: true });
  const direct = useWrite();
  const { complain } = useNotices();
  const { catalogue } = useSession();
  const isWhole = isWholeIn(catalogue);
  const complete = (all: Draft): RoleRules => ({ ...all, exceptions: all.exceptions.filter(isWhole) });
  /** The role as it was when the changing began. */
  const [began, setBegan] = useState(role);
  const before = useMemo(() => readRules(began.basis, began.rules), [began]);
  const [draft, setDraft] = useState<Draft>();
  // What is kept is shown as long as nothing was changed here.
  if (!draft && began.version !== role.version) setBegan(role);
  const rules: Draft = draft ?? before;
  const change = (values: Partial<Draft>) => setDraft({ ...rules, ...values });
  const changes = changesFrom(role.basis, complete(rules));
  const text = JSON.stringify(changes);
  const isChanged = draft !== undefined && text !== JSON.stringify(changesFrom(role.basis, before));
  const open = rules.exceptions.filter((each) => !isWhole(each)).length;
  const isStale = draft !== undefined && role.version !== began.version;

  const asked = useSettled(text, SETTLED_MS);
  const { data: preview, error } = useQuery({
    queryKey: [RECORDS, 'role-preview', role.key, asked],
    queryFn: () =>
      call<RolePreview>('POST', '/role-preview', {
        body: { role: role.key, rules: JSON.parse(asked) as object },
      }),
    enabled: isChanged,
    placeholderData: (last) => last,
  });
  const drop = () => {
    setDraft(undefined);
    setBegan(role);
  };
  const putOnTop = () => {
    const theirs = readRules(role.basis, role.rules);
    setDraft(rebaseRules(before, complete(rules), theirs));
    setBegan(role);
  };
  const save = () =>
    write.mutate(
      { method: 'PATCH', path: `/roles/${role.id}`, version: began.version, body: { rules: text } },
      {
        onSuccess: ({ value }) => {
          setBegan(value);
          setDraft(undefined);
        },
        onError: (problem) => {
          // Someone else’s change is shown above, with the ways on.
          if (!(problem instanceof ApiProblem && problem.problem.current)) complain(problem);
        },
      },
    );
  const canSave = isChanged && !isStale && open === 0 && !error;
  useShortcuts('Role', [{ keys: 'mod+Enter', does: 'Keep the changes', run: () => canSave && save() }]);
  const set = (body: Partial<Role>) =>
    direct.mutate({ method: 'PATCH', path: `/roles/${role.id}`, version: role.version, body });
  return (
    <div className="role-editor">
      <div className="role-body">
        <header className="role-head">
          <KeptName
            variant="borderless"
            className="role-name"
            value={role.name}
            maxLength={60}
            aria-label="Name of the role"
            keep={(name) => set({ name })}
          />
          <Select
            variant="borderless"
            value={role.sells}
            options={[...sells]}
            popupMatchSelectWidth={false}
            onChange={(value) => set({ sells: value })}
            aria-label="Whether its people sell"
          />
          <KeptText
            variant="borderless"
            className="role-about"
            value={role.about}
            maxLength={300}
            placeholder="What it is for"
            aria-label="What it is for"
            keep={(about) => set({ about })}
          />
        </header>
        {isStale && (
          <Alert
            type="warning"
            title="Somebody changed this role since you began. Nothing of yours is kept yet."
            action={
              <>
                <Button size="small" onClick={drop}>
                  Show theirs
                </Button>{' '}
                <Button size="small" type="primary" onClick={putOnTop}>
                  Put mine on top
                </Button>
              </>
            }
          />
        )}
        <ReachTable
          table={rules.reach}
          before={before.reach}
          change={(reach) => change({ reach })}
          name={role.name}
        />
        <div className="role-parts">
          <RoleExceptions exceptions={rules.exceptions} change={(exceptions) => change({ exceptions })} />
          <RoleFields fields={rules.fields} change={(fields) => change({ fields })} />
          <RoleActs permitted={rules} change={change} />
          <RoleHolders role={role} />
        </div>
      </div>
      {(isChanged || open > 0) && (
        <footer className="role-foot" aria-label="What the change means">
          <div role="status">
            {open > 0 ? (
              <p className="attention">
                {counted(open, 'exception does', 'exceptions do')} not say yet which records{' '}
                {open === 1 ? 'it means' : 'they mean'}.
              </p>
            ) : error ? (
              <p className="attention">{error.message}</p>
            ) : preview ? (
              <PreviewList preview={preview} />
            ) : (
              <p className="second">Counting who gains and loses what …</p>
            )}
          </div>
          <div className="role-do">
            <Button onClick={drop}>Drop the changes</Button>
            <Button type="primary" disabled={!canSave} loading={write.isPending} onClick={save}>
              Keep
            </Button>
          </div>
        </footer>
      )}
    </div>
  );
}
