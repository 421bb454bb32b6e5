/** The API client, typed from the server's own description. */
import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type EffectTable = Schemas['EffectTable'];
export type ParameterTable = Schemas['ParameterTable'];
export type ReelState = Schemas['ReelState'];
export type Change = Schemas['Change'];
export type MediaLine = Schemas['MediaLine'];
export type ExportLine = Schemas['ExportLine'];
export type Found = Schemas['Found'];
export type FoundCut = Schemas['FoundCut'];
export type HistoryEntry = Schemas['HistoryEntry'];

/** An answer that was not a success, with the server's one sentence. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly where = '',
  ) {
    super(message);
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? '';
}

const security: Middleware = {
  async onRequest({ request }) {
    if (request.method !== 'GET') {
      // Pages bring it; where cookies have been cleared meanwhile, one is asked for once more.
      if (!csrfToken()) await fetch('/sign-in').catch(() => undefined);
      request.headers.set('X-CSRFToken', csrfToken());
    }
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: '/' });
client.use(security);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws a Refusal when there is none. */
export async function unwrap<T>(answer: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await answer;
  if (response.ok) return data as T;
  throw refusal(error, response.status);
}

export function refusal(body: unknown, status: number): Refusal {
  const said = body as { detail?: unknown; where?: unknown } | undefined;
  const text = typeof said?.detail === 'string' ? said.detail : `The server answered ${status}.`;
  const sentence = text.charAt(0).toUpperCase() + text.slice(1);
  return new Refusal(sentence, status, typeof said?.where === 'string' ? said.where : '');
}
