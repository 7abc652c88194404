import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf, type Written } from '@zawn/core';
import { App, Button, Input, Select } from 'antd';
import { Ellipsis, Eye, Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { BarMenu } from '../../platform/frame/bar-menu';
import { counted } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { RoleEditor } from './role-editor';
import './access.css';
import './roles.css';

type Role = RecordOf<'role'>;

const ROLES = { ...ask('role'), sort: [{ field: 'id' }] };

/** Begins a role of one’s own as another one. */
function NewRole({
  roles,
  made,
  close,
}: {
  roles: readonly Role[];
  made: (role: Role) => void;
  close: () => void;
}) {
  const write = useWrite<Role>();
  const [name, setName] = useState('');
  const [like, setLike] = useState(roles[0]?.key);
  const model = roles.find(({ key }) => key === like);
  return (
    <form
      className="role-new"
      onSubmit={(event) => {
        event.preventDefault();
        if (!model) return;
        const { basis, rules, sells, secondStep } = model;
        write.mutate(
          {
            method: 'POST',
            path: '/roles',
            body: { name: name.trim(), basis, rules, sells, secondStep, retired: false },
          },
          {
            onSuccess: ({ value }: Written<Role>) => {
              close();
              made(value);
            },
          },
        );
      }}
    >
      <Input
        autoFocus
        value={name}
        maxLength={60}
        placeholder="Name of the role"
        aria-label="Name of the role"
        onChange={({ target }) => setName(target.value)}
      />
      <Select
        value={like}
        options={roles.map(({ key, name: label }) => ({ value: key, label: `begins as ${label}` }))}
        onChange={setLike}
        aria-label="Begins as"
      />
      <Button type="primary" htmlType="submit" disabled={name.trim() === ''} loading={write.isPending}>
        Make
      </Button>
      <Button onClick={close}>Cancel</Button>
    </form>
  );
}

/** What each role permits, object by object. */
export function Component() {
  const { people } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const [isMaking, setMaking] = useState(false);
  const navigate = useNavigate();
  const { modal } = App.useApp();
  const write = useWrite();
  const { data, error, refetch } = useQuery(allRecords(ROLES));
  const roles = (data?.rows ?? []) as unknown as Role[];
  const role = roles.find(({ key }) => key === parameters.get('role')) ?? roles[0];
  const show = ({ key }: Role) => setParameters({ role: key }, { replace: true });
  const holders = (key: string) => people.filter((each) => each.active && each.role === key).length;
  const remove = ({ id, version, name }: Role) =>
    void modal.confirm({
      title: `Delete the role “${name}”?`,
      content: 'It goes to the bin, and this can be undone.',
      okText: 'Delete role',
      okButtonProps: { danger: true },
      onOk: () =>
        write.mutateAsync({ method: 'DELETE', path: `/roles/${id}`, version }).catch(() => undefined),
    });
  return (
    <>
      <header className="page-head">
        <h1>Roles</h1>
        {data && <span className="page-count">{counted(roles.length, 'role')}</span>}
        <div className="page-tools">
          <Button icon={<Eye size={15} />} onClick={() => void navigate('/setup/reach')}>
            What can somebody see?
          </Button>
          <Allowed object="role" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={() => setMaking(true)}>
              Role
            </Button>
          </Allowed>
        </div>
      </header>
      {isMaking && roles.length > 0 && <NewRole roles={roles} made={show} close={() => setMaking(false)} />}
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !role ? (
        <Skeleton rows={10} />
      ) : (
        <div className="roles">
          <ul className="role-list" aria-label="Roles">
            {roles.map((each) => (
              <li key={each.id} className={each.retired ? 'role-retired' : ''}>
                <button
                  type="button"
                  aria-current={each.key === role.key ? 'true' : undefined}
                  onClick={() => show(each)}
                >
                  <b className="clip">{each.name}</b>
                  <span className="second">
                    {each.retired
                      ? 'retired'
                      : holders(each.key) === 0
                        ? 'nobody'
                        : counted(holders(each.key), 'person', 'people')}
                  </span>
                </button>
                <BarMenu
                  className="people-more"
                  label={`Actions for ${each.name}`}
                  menu={{
                    items: [
                      {
                        key: 'retire',
                        label: each.retired ? 'Bring back' : 'Retire',
                        onClick: () =>
                          write.mutate({
                            method: 'PATCH',
                            path: `/roles/${each.id}`,
                            version: each.version,
                            body: { retired: !each.retired },
                          }),
                      },
                      { key: 'delete', label: 'Delete', danger: true, onClick: () => remove(each) },
                    ],
                  }}
                >
                  <Ellipsis size={16} aria-hidden />
                </BarMenu>
              </li>
            ))}
          </ul>
          <RoleEditor key={role.id} role={role} />
        </div>
      )}
    </>
  );
}
