import { useMutation, useQuery } from '@tanstack/react-query';
import { tokenScopes, type ApiToken, type NewApiToken, type TokenScope } from '@zawn/core';
import { Button, Input, Select, Typography } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { nearDate } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import './tokens.css';

const scopeLabel = (scope: TokenScope) => tokenScopes.find(({ key }) => key === scope)?.label ?? scope;

/** How a program adds a lead with the token just made. */
const example = (secret: string) => `curl ${window.location.origin}/api/v1/leads \\
  -H 'Authorization: Bearer ${secret}' \\
  -H 'Content-Type: application/json' \\
  -H 'Idempotency-Key: your-own-number-of-this-lead' \\
  -d '{"name": "Runa Seagrave", "organisation": "Seagrave Harbour Trust", "phone": "01632 960001"}'`;

/** One’s own tokens, by which programs use Zawn in one’s name. */
export function Component() {
  const { today, dayOf } = useSession();
  const { complain } = useNotices();
  const [name, setName] = useState('');
  const [scope, setScope] = useState<TokenScope>('leads');
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'tokens'],
    queryFn: () => call<{ tokens: ApiToken[] }>('GET', '/tokens'),
  });
  const make = useMutation({
    mutationFn: () => call<NewApiToken>('POST', '/tokens', { body: { name, scope } }),
    onSuccess: () => {
      setName('');
      void refetch();
    },
    onError: complain,
  });
  const end = useMutation({
    mutationFn: (id: number) => call('POST', `/tokens/${id}/revoke`),
    onSuccess: () => refetch(),
    onError: complain,
  });
  const made = make.data;
  return (
    <>
      <header className="page-head">
        <h1>API tokens</h1>
        <span className="page-count">for programs that use Zawn in your name</span>
        <div className="page-tools">
          <a href="/api/v1/openapi.json">The API as an OpenAPI document</a>
        </div>
      </header>
      <div className="tokens">
        <form
          className="token-form"
          onSubmit={(event) => {
            event.preventDefault();
            make.mutate();
          }}
        >
          <label>
            What it is for
            <Input
              id="token-name"
              value={name}
              maxLength={80}
              onChange={({ target }) => setName(target.value)}
            />
          </label>
          <label>
            What it may do
            <Select
              value={scope}
              onChange={setScope}
              options={tokenScopes.map(({ key, label }) => ({ value: key, label }))}
            />
          </label>
          <Button type="primary" htmlType="submit" disabled={name.trim() === ''} loading={make.isPending}>
            Make a token
          </Button>
        </form>
        {made && (
          <section className="token-made" role="status">
            <h2>Copy it now: it is shown this once</h2>
            <Typography.Text copyable code>
              {made.secret}
            </Typography.Text>
            {made.scope !== 'read' && <pre>{example(made.secret)}</pre>}
          </section>
        )}
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={3} />
        ) : data.tokens.length === 0 ? (
          <Empty title="No tokens yet.">
            <p>With a token a program adds leads, or reads what you see.</p>
          </Empty>
        ) : (
          <ul className="token-list" aria-label="Tokens">
            {data.tokens.map((token) => (
              <li key={token.id} className={token.revokedAt ? 'second' : ''}>
                <b className="clip">{token.name}</b>
                <span>{scopeLabel(token.scope)}</span>
                <span className="second">…{token.ending}</span>
                <span className="second">
                  {token.lastUsedAt ? `last used ${nearDate(dayOf(token.lastUsedAt), today)}` : 'never used'}
                </span>
                {token.revokedAt ? (
                  <span>ended</span>
                ) : (
                  <Button size="small" aria-label={`End ${token.name}`} onClick={() => end.mutate(token.id)}>
                    End
                  </Button>
                )}
              </li>
            ))}
          </ul>
        )}
      </div>
    </>
  );
}
