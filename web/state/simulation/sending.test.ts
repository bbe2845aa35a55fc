import fc from 'fast-check';
import { anyLevel } from '../../../core/testing/arbitrary.ts';
import { basin, level, pressed, shard } from '../../../core/testing/levels.ts';
import { BaseMissing, createReceiving, createSending, Sent } from './sending.ts';
import { createWorkerClient } from './workerClient.ts';

const turned = level({ kinds: { shard, basin }, placements: { one: { kind: 'shard', x: 3, y: 3 } } });
const other = { ...turned, name: 'turned', kinds: { ...turned.kinds, basin: { ...turned.kinds['basin']!, tags: ['dry'] } } };
const [run, longer] = [pressed(60), pressed(120)];

/** Both ends of a wire that copies what it carries. */
function wire() {
  const [send, receive] = [createSending(), createReceiving()];
  const sent = (request: Parameters<typeof send>[0]) => Sent.parse(structuredClone(send(request)));
  return { sent, carried: (request: Parameters<typeof send>[0]) => receive(sent(request)) };
}

test('what arrives is what was sent, although only what is other goes over the wire', () => {
  fc.assert(
    fc.property(fc.array(anyLevel, { maxLength: 3 }), (levels) => {
      const { carried } = wire();
      for (const one of [turned, other, ...levels, turned])
        for (const walked of [run, longer, longer]) expect(carried({ level: one, run: walked })).toEqual({ level: one, run: walked });
    }),
    { numRuns: 30 },
  );
});

test('of the same level and run nothing is sent again, of a turned one only what was turned', () => {
  const { sent } = wire();
  expect(sent({ level: turned, run })).toEqual({ message: 1, base: null, level: turned, run });
  expect(sent({ level: turned, run })).toEqual({ message: 2, base: 1, level: [], run: null });
  expect(sent({ level: other, run })).toEqual({
    message: 3,
    base: 2,
    level: [
      { path: '/kinds/basin/tags', now: ['dry'] },
      { path: '/name', now: 'turned' },
    ],
    run: null,
  });
});

test('changes to something that was never received are refused, and so are changes to another message', () => {
  expect(() => createReceiving()({ message: 2, base: 1, level: [], run })).toThrow(BaseMissing);
  const receive = createReceiving();
  receive({ message: 1, base: null, level: turned, run });
  expect(() => receive({ message: 3, base: 2, level: [], run: null })).toThrow(BaseMissing);
});

/** A worker that answers with the level it was asked about; `mishap` may break it, or lose what it has received. */
function pretendWorkers(mishap: (question: number) => 'break' | 'forget' | null) {
  let [started, questions] = [0, 0];
  const start = () => {
    started += 1;
    let receive = createReceiving();
    let listener: (why: string) => void = () => undefined;
    return {
      api: {
        ask(sent: Sent): Promise<unknown> {
          questions += 1;
          const trouble = mishap(questions);
          if (trouble === 'break') {
            setImmediate(() => listener('out of memory'));
            return new Promise(() => undefined); // Nobody will ever answer.
          }
          if (trouble === 'forget') receive = createReceiving();
          return Promise.resolve().then(() => receive(structuredClone(sent)).level);
        },
      },
      onBreak: (to: typeof listener) => {
        listener = to;
      },
      end: () => undefined,
    };
  };
  let restarts = 0;
  const client = createWorkerClient(start, createSending, () => (restarts += 1));
  const ask = (level: typeof turned) => client.ask((api, asChanges) => api.ask(asChanges({ level, run })));
  return { ask, counts: () => ({ started, questions, restarts }) };
}

test('a worker that has lost what it was sent is sent the whole, one that breaks is started anew, and all is answered', async () => {
  const forgetful = pretendWorkers((question) => (question === 2 ? 'forget' : null));
  for (const one of [turned, other, turned]) expect(await forgetful.ask(one)).toEqual(one);
  expect(forgetful.counts()).toEqual({ started: 1, questions: 4, restarts: 0 });

  const fragile = pretendWorkers((question) => (question === 2 || question === 3 ? 'break' : null));
  expect(await fragile.ask(turned)).toEqual(turned);
  // Two are under way when it breaks; neither is left without an answer.
  expect(await Promise.all([fragile.ask(other), fragile.ask(turned)])).toEqual([other, turned]);
  expect(fragile.counts()).toMatchObject({ started: 2, restarts: 2 });

  const hopeless = pretendWorkers((question) => (question < 4 ? 'break' : null));
  await expect(hopeless.ask(turned)).rejects.toThrow('broke down (out of memory)');
  expect(await hopeless.ask(other)).toEqual(other);
});
