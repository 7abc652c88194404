import { type ProblemBody } from '@zawn/core';

/** A refusal of the server, with its sentence for the person and what is wrong with which field. */
export class ApiProblem extends Error {
  constructor(readonly problem: ProblemBody) {
    super(problem.detail);
  }

  /** The message about one field, if there is one. */
  fault(field: string): string | undefined {
    return this.problem.faults?.find((fault) => fault.field === field)?.message;
  }
}

let csrf = '';
let onSignedOut: () => void = () => undefined;

/** Hands the client the token that every write carries. */
export function setCsrf(token: string): void {
  csrf = token;
}

/** Calls back when the server says that the session has ended. */
export function whenSignedOut(callback: () => void): void {
  onSignedOut = callback;
}

export interface CallOptions {
  body?: unknown;
  /** A file sent as it is, instead of a body. */
  file?: Blob;
  /** The version a change was made against. */
  version?: number;
  signal?: AbortSignal;
}

const unreachable: ProblemBody = {
  type: '/problems/unreachable',
  title: 'unreachable',
  status: 0,
  detail: 'Zawn cannot be reached. What you typed is still here; try again in a moment.',
};

/**
 * Calls the API.
 * @throws ApiProblem with the server's problem document, or one that says the server cannot be reached.
 */
export async function call<T>(method: string, path: string, options: CallOptions = {}): Promise<T> {
  const { body, file, version, signal } = options;
  const headers: Record<string, string> = { Accept: 'application/json' };
  if (body !== undefined) headers['Content-Type'] = 'application/json';
  if (file) headers['Content-Type'] = 'application/octet-stream';
  if (version !== undefined) headers['If-Match'] = `"${version}"`;
  if (method !== 'GET') headers['X-CSRF-Token'] = csrf;
  const sent = file ?? (body === undefined ? undefined : JSON.stringify(body));
  const request = { method, headers, body: sent, signal };
  const response = await fetch(`/api/v1${path}`, request).catch((error: unknown) => {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new ApiProblem(unreachable);
  });
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => unreachable);
  if (response.ok) return answer as T;
  const problem = answer as ProblemBody;
  if (problem.type === '/problems/not-signed-in') onSignedOut();
  throw new ApiProblem(problem);
}

/** Fetches a file that is made for a request, and hands it to the browser to keep. */
export async function download(path: string, body: unknown): Promise<void> {
  const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf };
  const response = await fetch(`/api/v1${path}`, {
    method: 'POST',
    headers,
    body: JSON.stringify(body),
  }).catch(() => {
    throw new ApiProblem(unreachable);
  });
  if (!response.ok) throw new ApiProblem((await response.json().catch(() => unreachable)) as ProblemBody);
  const named = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '');
  saveAs(await response.blob(), named?.[1] ?? 'zawn');
}

/** Hands a file to the browser to keep. */
export function saveAs(file: Blob, name: string): void {
  const address = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
