import { stampNow, timeOnDay } from './clock';

const at = (text: string) => new Date(text);

it('a record is stamped by the clock of the place', () => {
  expect(stampNow(at('2026-04-08T09:05:59'))).toEqual({ date: '2026-04-08', time: '09:05' });
});

it.each([
  ['the day itself', '2026-04-18', '2026-04-18T19:40:00', '19:40'],
  ['the night after it', '2026-04-18', '2026-04-19T00:35:00', '00:35'],
  ['over the end of a month', '2026-04-30', '2026-05-01T01:10:00', '01:10'],
  ['the morning after', '2026-04-18', '2026-04-19T06:00:00', null],
  ['months later', '2026-04-18', '2026-11-29T11:29:00', null],
  ['a day that is still to come', '2026-04-18', '2026-04-17T23:00:00', null],
])('a pass has the time of now on %s or not at all', (_, day, now, time) => expect(timeOnDay(day, at(now))).toBe(time));
