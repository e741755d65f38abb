import { GET as tachometer } from '@/app/api/stand-ins/tachometer/route';
import { GET as voltmeter } from '@/app/api/stand-ins/voltmeter/route';
import { POST as template } from '@/app/api/templates/route';
import { GET as readRules, PUT as writeRules } from '@/app/api/shop/rules/route';
import { measuredJob, measuredUnit, SHOP_RULE } from '../../test/fitting';
import { ask, json, none, onFreshDatabase } from '../../test/api';
import { must } from '@/core/failure';
import { templateOf } from '@/core/fit/template';
import { eventStream, paced } from './devices/device';

onFreshDatabase();

const get = (query: string): Request => new Request(`http://localhost/api/stand-ins/x?${query}`);

/** First few messages of an event stream; then the reader goes away. */
async function messages(response: Response, count: number): Promise<Record<string, number>[]> {
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let text = '';
  while ((text.match(/\n\n/g) ?? []).length < count) {
    const { value, done } = await reader.read();
    if (done) break;
    text += decoder.decode(value);
  }
  await reader.cancel();
  return text
    .split('\n\n')
    .filter((m) => m.startsWith('data: {'))
    .slice(0, count)
    .map((m) => JSON.parse(m.slice(6)) as Record<string, number>);
}

describe('streams', () => {
  it('the tachometer sends an idle near its band, as server-sent events', async () => {
    const response = await tachometer(get('low=650&high=850&case=sound&seed=3'), none);
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const got = await messages(response, 3);
    expect(got.map((m) => m['t_s'])).toEqual([0, 0.2, 0.4]);
    for (const m of got) expect(m['rpm']).toBeGreaterThan(600);
  });

  it('the same seed is the same engine', async () => {
    const query = 'low=650&high=850&case=hunting%20idle&seed=8';
    const [a, b] = await Promise.all([messages(await tachometer(get(query), none), 2), messages(await tachometer(get(query), none), 2)]);
    expect(a).toEqual(b);
  });

  it('the voltmeter sends both tracks', async () => {
    const [first] = await messages(await voltmeter(get('closed_V=0.5&full_V=4.5&position=full&case=sound&seed=1'), none), 1);
    expect(first!['a_V']! + first!['b_V']!).toBeCloseTo(5, 1);
  });

  it.each([
    ['low=850&high=650&case=sound&seed=1', /high: The band’s upper end is above its lower one\./],
    ['low=650&high=850&case=magic&seed=1', /^case: /],
    ['low=650&high=850&case=sound&seed=-1', /^seed: /],
    ['high=850&case=sound&seed=1', /^low: /],
  ])('%s is refused, and says which', async (query, words) => {
    const response = await tachometer(get(query), none);
    expect(response.status).toBe(422);
    expect(((await response.json()) as { message: string }).message).toMatch(words);
  });

  it('a device that is done says so before it goes', async () => {
    const ending = new AbortController();
    const text = await new Response(
      eventStream(paced([1, 2], 1000, ending.signal), ending) as ReadableStream<Uint8Array<ArrayBuffer>>,
    ).text();
    expect(text).toBe('data: 1\n\ndata: 2\n\nevent: end\ndata: \n\n');
  });

  it('stopped, it gives no more; its reader gone, it is put away', async () => {
    const ending = new AbortController();
    let given = 0;
    function* endless(): Generator<number> {
      for (;;) yield (given += 1);
    }
    const reader = eventStream(paced(endless(), 500, ending.signal), ending).getReader();
    await reader.read();
    await reader.cancel();
    expect(ending.signal.aborted).toBe(true);
    const then = given;
    await new Promise((done) => setTimeout(done, 30));
    expect(given).toBe(then);
  });
});

describe('templates', () => {
  const drawing = must(templateOf('gasket', measuredJob(), measuredUnit()));
  const post = (body: unknown): Promise<Response> => template(ask(body), none);

  it.each([
    ['svg', 'image/svg+xml', '<svg'],
    ['dxf', 'image/vnd.dxf', '0\nSECTION'],
    ['pdf', 'application/pdf', '%PDF-'],
  ])('%s comes as a file that no browser runs', async (format, type, start) => {
    const response = await post({ template: drawing, format });
    expect(response.status).toBe(200);
    expect(response.headers.get('content-type')).toBe(type);
    expect(response.headers.get('content-disposition')).toBe(`attachment; filename="gasket.${format}"`);
    expect(response.headers.get('content-security-policy')).toContain('sandbox');
    expect(
      Buffer.from(await response.arrayBuffer())
        .toString('latin1')
        .startsWith(start),
    ).toBe(true);
  });

  it.each([
    [{ template: drawing, format: 'exe' }, /^format: /],
    [{ template: { ...drawing, marks: [] }, format: 'svg' }, /^template.marks: /],
    [{ template: drawing, format: 'pdf', measured_m: 0.08 }, /Print at 100 %/],
    [{ template: { ...drawing, marks: [{ kind: 'circle', layer: 'holes', at: { x_m: 0, y_m: 0 }, r_m: -1 }] }, format: 'dxf' }, /r_m/],
  ])('what cannot be drawn is refused with what is wrong: case %#', async (body, words) => {
    const response = await post(body);
    expect(response.status).toBe(422);
    expect(((await response.json()) as { message: string }).message).toMatch(words);
  });

  it('text that would be markup stays text', async () => {
    const marks = [
      ...drawing.marks,
      { kind: 'text', layer: 'scribe', at: { x_m: 0, y_m: 0 }, height_m: 0.003, text: '<script>alert(1)</script>' },
    ];
    const svg = await (await post({ template: { ...drawing, marks }, format: 'svg' })).text();
    expect(svg).not.toContain('<script>');
  });
});

describe('a shop’s own checks', () => {
  const rule = SHOP_RULE;
  const put = (body: unknown): Promise<Response> => writeRules(ask(body), none);

  it('are none at first, kept whole, and replaced', async () => {
    expect(await json(await readRules(get(''), none))).toEqual([]);
    expect(await json(await put([rule, { ...rule, id: 'own-2' }]))).toHaveLength(2);
    expect(await json(await put([rule]))).toEqual([rule]);
    expect(await json(await readRules(get(''), none))).toEqual([rule]);
  });

  it('one that cannot be leaves those there are', async () => {
    await put([rule]);
    expect((await put([{ ...rule, title: '' }])).status).toBe(422);
    expect(await json(await readRules(get(''), none))).toEqual([rule]);
  });
});
