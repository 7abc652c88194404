import { request } from 'node:http';
import { type ZawnServer } from './zawn-server';

/** What the API said. */
export interface Answer {
  status: number;
  cookie: string;
  body: Record<string, unknown>;
}

/** One request past any browser; rejects when the connection breaks before the whole answer has come. */
export function send(
  server: ZawnServer,
  method: string,
  path: string,
  body?: object | string,
  headers: Record<string, string> = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const call = request(
      `${server.address}/api/v1${path}`,
      { method, headers: { 'Content-Type': 'application/json', ...headers } },
      (response) => {
        let text = '';
        response.on('data', (chunk: Buffer) => (text += chunk.toString()));
        response.on('error', reject);
        response.on('end', () => {
          if (!response.complete) reject(new Error('cut short'));
          else
            resolve({
              status: response.statusCode ?? 0,
              cookie: (response.headers['set-cookie']?.[0] ?? '').split(';')[0],
              body: JSON.parse(text || '{}') as Record<string, unknown>,
            });
        });
      },
    );
    call.on('error', reject);
    call.end(typeof body === 'object' ? JSON.stringify(body) : body);
  });
}

/** Creates an organisation in an empty data folder and signs its first person in. */
export async function found(server: ZawnServer) {
  const password = 'a slate roof';
  const email = 'una.garrow@saltmarsh.example';
  await send(server, 'POST', '/organisation', {
    name: 'Saltmarsh Pumps',
    currency: 'GBP',
    fiscalYearStart: 4,
    weekStart: 1,
    timeZone: 'Europe/London',
    country: 'GB',
    person: { name: 'Una Garrow', email, password },
  });
  return signIn(server, email, password);
}

/** Someone signed in, as the headers of their requests. */
export async function signIn(
  server: ZawnServer,
  email = 'tamsin.rudd@brackwater.example',
  password = 'brackwater',
) {
  const { cookie, body } = await send(server, 'POST', '/session', { email, password });
  return {
    headers: { Cookie: cookie, 'X-CSRF-Token': String(body.csrf) },
    me: (body.me as { id: number }).id,
  };
}
