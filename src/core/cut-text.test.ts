import { TableReader } from './read/reader';
import { cutText } from './cut-text';

it('cuts a text without cutting a character in half', () => {
  expect(cutText('abc', 3)).toBe('abc');
  expect(cutText('abcd', 3)).toBe('abc');
  expect(cutText('ab🛠d', 3)).toBe('ab');
  expect(cutText('ab🛠d', 4)).toBe('ab🛠');
});

it('leaves no half a character in what the reader keeps of a line', () => {
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(`rpm,kW\n1000,10\n${'x'.repeat(159)}🛠\n2000,20\n3000,${'y'.repeat(39)}🛠\n`));
  expect(JSON.stringify(reader.finish())).not.toMatch(/\\ud[89a-f]/);
});
