import fc from 'fast-check';
import { anyLevel } from '../../core/testing/arbitrary.ts';
import { basin, level, pressed, shard } from '../../core/testing/levels.ts';
import { createReceiving, createSending, Sent } from './sending.ts';

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
  expect(sent({ level: turned, run })).toEqual({ level: turned, run });
  expect(sent({ level: turned, run })).toEqual({ level: [], run: null });
  expect(sent({ level: other, run })).toEqual({
    level: [
      { path: '/kinds/basin/tags', now: ['dry'] },
      { path: '/name', now: 'turned' },
    ],
    run: null,
  });
});

test('changes to something that was never sent are refused', () => {
  expect(() => createReceiving()({ level: [], run })).toThrow('never sent');
  expect(() => createReceiving()({ level: turned, run: null })).toThrow('never sent');
});
