// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { useSession as UseSession } from './session';

/** What a server is asked, and its answers, given when the test says so. */
interface Asked {
  method: string;
  path: string;
  body: { edit_id: string; base: number; commands: { kind: string }[]; expect?: number };
  answer: (status: number, data?: unknown) => Promise<void>;
}

let asked: Asked[];
let useSession: typeof UseSession;
let unsentEdits: () => number;
/** Revisions of the reels on the server. */
let revisions: Record<string, number>;
let fetched: string[];

async function settled() {
  for (let i = 0; i < 60; i++) await Promise.resolve();
}

function state(id: string) {
  const revision = revisions[id]!;
  return {
    id,
    revision,
    document: {
      name: `${id} ${revision}`,
      tracks: [
        { id: 't1', clips: [{ id: 'c1', start: 0 }] },
        { id: 't2', clips: [{ id: 'c2', start: revision }] },
      ],
    },
    derived: { length: 1, speeds: { c1: { percent: 50 } } },
    undo: null,
    redo: null,
  };
}

async function serve(input: Request): Promise<Response> {
  const url = new URL(input.url);
  const json = (data: unknown, status = 200) =>
    new Response(JSON.stringify(data), {
      status,
      headers: { 'Content-Type': 'application/json' },
    });
  if (input.method === 'GET') {
    const id = url.pathname.split('/').at(-1)!;
    fetched.push(id);
    return json(state(id));
  }
  const body = (await input.json()) as Asked['body'];
  return new Promise((resolve) => {
    asked.push({
      method: input.method,
      path: url.pathname,
      body,
      answer: async (status, data) => {
        if (status === 0) resolve(Response.error());
        else resolve(json(data ?? { detail: 'it cannot be done' }, status));
        await settled();
      },
    });
  });
}

/** The answer to an edit that was accepted. */
function change(id: string) {
  revisions[id] = revisions[id]! + 1;
  return {
    revision: revisions[id],
    patch: [{ op: 'replace', path: '/name', value: `${id} ${revisions[id]}` }],
    title: 'x',
    derived: { length: 1 },
    undo: { revision: revisions[id], title: 'x' },
    redo: null,
  };
}

const command = (kind: string) => ({ kind });
const session = () => useSession.getState();

beforeEach(async () => {
  asked = [];
  fetched = [];
  revisions = { a: 3, b: 7 };
  vi.stubGlobal('fetch', (input: Request) =>
    serve(input).then((r) => (r.type === 'error' ? Promise.reject(new TypeError('down')) : r)),
  );
  const Native = Request;
  vi.stubGlobal(
    'Request',
    class extends Native {
      constructor(input: RequestInfo | URL, init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://x') : input, init);
      }
    },
  );
  vi.resetModules();
  ({ useSession, unsentEdits } = await import('./session'));
  await session().open('a');
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('a session', () => {
  it('keeps the parts that another window left as they were', async () => {
    const before = session();
    revisions['a'] = 4;
    await session().catchUp(4);
    await settled();
    const after = session();
    expect(after.document!.name).toBe('a 4');
    expect(after.document!.tracks![0]).toBe(before.document!.tracks![0]);
    expect(after.document!.tracks![1]).not.toBe(before.document!.tracks![1]);
    expect(after.derived!.speeds['c1']).toBe(before.derived!.speeds['c1']);
  });

  it('says what an edit may go on to, until the next one', async () => {
    const offer = { text: 'It stayed', label: 'Bring it', commands: [{ kind: 'bring_along' }] };
    void session().edit(command('move_clips'));
    await settled();
    await asked[0]!.answer(200, { ...change('a'), offer });
    expect(session().offer).toEqual(offer);
    void session().edit(command('set_clip'));
    await settled();
    await asked[1]!.answer(200, change('a'));
    expect(session().offer).toBeNull();
  });

  it('a draft is made upon what has been let go of and is not recorded yet', async () => {
    session().setDraft([{ kind: 'one' }]);
    void session().keepDraft();
    await settled();
    const first = session().draft!.sentAs!;
    session().setDraft([{ kind: 'two' }]);
    session().setDraft([{ kind: 'two', further: true }]);
    expect(session().draft).toMatchObject({
      commands: [{ kind: 'two', further: true }],
      upon: [{ edit_id: first, commands: [{ kind: 'one' }] }],
    });
    void session().keepDraft();
    await settled();
    const second = session().draft!.sentAs!;
    session().setDraft([{ kind: 'three' }]);
    expect(session().draft!.upon!.map((sent) => sent.edit_id)).toEqual([first, second]);
    await asked[0]!.answer(200, change('a'));
    expect(session().draft!.upon!.map((sent) => sent.edit_id)).toEqual([second]);
    // What is refused is no longer there either.
    await asked[1]!.answer(422);
    expect(session().draft).toMatchObject({ commands: [{ kind: 'three' }] });
    expect(session().draft).not.toHaveProperty('upon');
  });

  it('a draft that is taken back leaves what was let go of before it', async () => {
    session().setDraft([{ kind: 'one' }]);
    void session().keepDraft();
    await settled();
    const sentAs = session().draft!.sentAs!;
    for (const commands of [[{ kind: 'two' }], []]) {
      session().setDraft(commands);
      if (commands.length) session().setDraft(undefined);
      else void session().keepDraft();
      expect(session().draft).toMatchObject({ commands: [{ kind: 'one' }], sentAs });
    }
    await asked[0]!.answer(200, change('a'));
    expect(session().draft).toBeUndefined();
    expect(asked).toHaveLength(1);
  });

  it('sends edits one after another, each on the newest revision', async () => {
    const first = session().edit(command('one'));
    const second = session().edit(command('two'));
    await settled();
    expect(asked.map((a) => a.body.commands[0]!.kind)).toEqual(['one']);
    expect(session().save).toBe('saving');
    await asked[0]!.answer(200, change('a'));
    expect(asked[1]!.body).toMatchObject({ base: 4, commands: [{ kind: 'two' }] });
    await asked[1]!.answer(200, change('a'));
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(session()).toMatchObject({ save: 'saved', revision: 5 });
    expect(session().document?.name).toBe('a 5');
  });

  it('keeps the edit of a reel that is left, and the first one of the next', async () => {
    const one = session().edit(command('one'));
    const two = session().edit(command('two'));
    await settled();
    session().close();
    await session().open('b');
    const three = session().edit(command('three'));
    await settled();
    expect(session().save).toBe('saving');
    const of = (path: string) => asked.find((a) => a.path.includes(`/${path}/`))!;
    await of('a').answer(200, change('a'));
    // What was done there goes on being sent, on that reel's own revision.
    const later = asked.filter((a) => a.path.includes('/a/'))[1]!;
    expect(later.body).toMatchObject({ base: 4, commands: [{ kind: 'two' }] });
    expect(session().save).toBe('saving');
    await of('b').answer(200, change('b'));
    expect(await three).toBe(true);
    expect(session()).toMatchObject({ id: 'b', revision: 8, save: 'saved' });
    expect(unsentEdits()).toBe(1);
    await later.answer(200, change('a'));
    expect(await Promise.all([one, two])).toEqual([true, true]);
    expect(unsentEdits()).toBe(0);
    expect(session()).toMatchObject({ id: 'b', revision: 8 });
  });

  it.each([401, 403])(
    'keeps an edit that is answered %i until one has signed in',
    async (status) => {
      vi.useFakeTimers();
      const done = session().edit(command('one'));
      await settled();
      const { edit_id } = asked[0]!.body;
      await asked[0]!.answer(status);
      expect(session().save).toBe('signed-out');
      expect(session().trouble).toBe('');
      expect(unsentEdits()).toBe(1);
      await vi.advanceTimersByTimeAsync(1100);
      // The very same edit, so that it applies once.
      expect(asked[1]!.body.edit_id).toBe(edit_id);
      await asked[1]!.answer(200, change('a'));
      expect(await done).toBe(true);
      expect(session().save).toBe('saved');
    },
  );

  it.each([0, 429, 500, 503])('waits and sends again after %i', async (status) => {
    vi.useFakeTimers();
    const done = session().edit(command('one'));
    await settled();
    await asked[0]!.answer(status);
    expect(session().save).toBe('offline');
    await vi.advanceTimersByTimeAsync(1100);
    expect(asked[1]!.body.edit_id).toBe(asked[0]!.body.edit_id);
    await asked[1]!.answer(200, change('a'));
    expect(await done).toBe(true);
  });

  it.each([409, 422])('says what is refused with %i, and lets values go back', async (status) => {
    const done = session().edit(command('one'));
    await settled();
    await asked[0]!.answer(status, { detail: 'the treatment must end after it starts' });
    expect(await done).toBe(false);
    expect(session().trouble).toBe('The treatment must end after it starts');
    expect(session().refusals).toBe(1);
    expect(session().save).toBe('saved');
    expect(fetched.length).toBe(status === 409 ? 2 : 1);
  });

  it('does not fetch the document for its own edit, though its event comes first', async () => {
    void session().edit(command('one'));
    await settled();
    const answer = change('a');
    await session().catchUp(4);
    await asked[0]!.answer(200, answer);
    await session().catchUp(4);
    expect(fetched).toEqual(['a']);
    expect(session().revision).toBe(4);
  });

  it('fetches what another window has done meanwhile, once', async () => {
    void session().edit(command('one'));
    await settled();
    const answer = change('a');
    revisions['a'] = 9;
    await session().catchUp(8);
    await session().catchUp(9);
    expect(fetched).toEqual(['a']);
    await asked[0]!.answer(200, answer);
    await settled();
    expect(fetched).toEqual(['a', 'a']);
    expect(session().revision).toBe(9);
  });

  it('undoes what was done last, however fast one presses', async () => {
    void session().edit(command('one'));
    void session().undoLast();
    await settled();
    await asked[0]!.answer(200, change('a'));
    expect(asked[1]!.path).toBe('/api/reels/a/undo');
    expect(asked[1]!.body.expect).toBe(4);
  });

  it('an event of another reel does not leave this one behind', async () => {
    revisions['a'] = 5;
    const looking = session().catchUp(5);
    session().close();
    await session().open('b');
    revisions['b'] = 12;
    await session().catchUp(12);
    await looking;
    await settled();
    expect(session()).toMatchObject({ id: 'b', revision: 12 });
  });
});
