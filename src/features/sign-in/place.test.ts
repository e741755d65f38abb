import { placeOf } from './place';

const HERE = 'http://127.0.0.1:4310';

it.each(['/', '/jobs/x/air?rpm=5000#a', '/shelf?unit=1'])('%s is a place here', (to) => {
  expect(placeOf(to, HERE)).toBe(to);
});

it.each([
  '//evil.example/x',
  '/\t/evil.example',
  '/\n/evil.example',
  '/\r\n/evil.example',
  '/\\evil.example',
  '/\t\\evil.example',
  'https://evil.example',
  'javascript:alert(1)',
  '',
])('%j leads to the board, not elsewhere', (to) => {
  expect(new URL(placeOf(to, HERE), HERE).origin).toBe(HERE);
  expect(placeOf(to, HERE)).toBe('/');
});

it('nothing asked for is the board', () => expect(placeOf(null, HERE)).toBe('/'));
