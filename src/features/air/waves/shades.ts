/** Red, green and blue of a colour written as #rrggbb. */
const rgb = (hex: string): [number, number, number] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];

/**
 * A shade between three colours: `t` −1 gives `low`, 0 `middle`, 1 `high`. A little of either is seen at once, because eyes
 * look for where it begins.
 */
export function shader(low: string, middle: string, high: string): (t: number) => [number, number, number] {
  const [a, m, b] = [rgb(low), rgb(middle), rgb(high)];
  return (t) => {
    const s = Math.min(1, Math.abs(t)) ** 0.8;
    const to = t < 0 ? a : b;
    return [0, 1, 2].map((i) => m[i]! + (to[i]! - m[i]!) * s) as [number, number, number];
  };
}

/** Fills a canvas from a grid of values between −1 and 1 (null: nothing known), read smoothly between them. */
export function paint(
  canvas: HTMLCanvasElement,
  columns: number,
  rows: number,
  at: (column: number, row: number) => number | null,
  shade: (t: number) => readonly [number, number, number],
): void {
  canvas.width = columns;
  canvas.height = rows;
  const context = canvas.getContext('2d');
  if (!context) return;
  const image = context.createImageData(columns, rows);
  for (let y = 0; y < rows; y += 1)
    for (let x = 0; x < columns; x += 1) {
      const t = at(x, y);
      const k = 4 * (y * columns + x);
      if (t === null) continue;
      const [r, g, b] = shade(t);
      image.data[k] = r;
      image.data[k + 1] = g;
      image.data[k + 2] = b;
      image.data[k + 3] = 255;
    }
  context.putImageData(image, 0, 0);
}
