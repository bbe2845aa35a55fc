import { drawBands, type BandDrawing } from './bands.ts';

interface Named {
  readonly name: string;
  readonly height: number;
}

/** A canvas that notes at which height what is drawn. */
function canvas() {
  const drawn: string[] = [];
  let top = 0;
  const context = {
    save: () => undefined,
    restore: () => undefined,
    beginPath: () => undefined,
    rect: () => undefined,
    clip: () => undefined,
    clearRect: () => undefined,
    setTransform: (...[, , , , , down]: number[]) => void (top = down ?? NaN),
    fillText: (name: string) => void drawn.push(`${name} at ${String(top)}`),
  };
  const element = { width: 0, height: 0, getContext: () => context } as unknown as HTMLCanvasElement;
  return { element, taken: () => drawn.splice(0) };
}

test('of the bands on a canvas only those are drawn anew that look another or lie elsewhere', () => {
  Object.assign(globalThis, { devicePixelRatio: 2 });
  const drawing: BandDrawing<Named, { readonly width: number }> = {
    same: (one, other) => one.name === other.name,
    draw: (context, { name }) => context.fillText(name, 0, 0),
  };
  const look = { width: 100 };
  const bands = (...named: [string, number][]): Named[] => named.map(([name, height]) => ({ name, height }));
  const { element, taken } = canvas();
  const draw = (list: Named[], with_: typeof look, before: ReturnType<typeof drawBands<Named, typeof look>> | null) =>
    drawBands(element, drawing, list, with_, before);

  const first = draw(bands(['health', 50], ['score', 30], ['speed', 20]), look, null);
  expect([element.width, element.height, taken()]).toEqual([200, 200, ['health at 0', 'score at 100', 'speed at 160']]);
  const second = draw(bands(['health', 50], ['jars', 30], ['speed', 20]), look, first);
  expect(taken()).toEqual(['jars at 100']);
  // As high as before in all, but the lower ones lie elsewhere.
  const third = draw(bands(['health', 50], ['jars', 20], ['speed', 30]), look, second);
  expect(taken()).toEqual(['jars at 100', 'speed at 140']);
  const narrower = { width: 80 };
  const fourth = draw(third.bands as Named[], narrower, third);
  expect(taken()).toHaveLength(3);
  // Another canvas shows nothing yet.
  drawBands(canvas().element, drawing, fourth.bands, narrower, fourth);
  expect(draw(bands(['health', 50]), narrower, fourth).bands).toHaveLength(1);
  expect(taken()).toEqual(['health at 0']);
});
