import { datesOf, isZone, localeOf, startOfDay } from './dates';

describe('dates', () => {
  it('are written in the order of the reader’s region, the month in words', () => {
    const at = '2026-04-18T22:30:00Z';
    expect(datesOf('en-GB', 'UTC').day(at)).toBe('18 Apr 2026');
    expect(datesOf('en-US', 'UTC').day(at)).toBe('Apr 18, 2026');
    expect(datesOf('de-DE', 'UTC').day(at)).toBe('18. Apr. 2026');
    expect(datesOf('en-GB', 'UTC').dayTime(at)).toBe('18 Apr 2026, 22:30');
  });
  it('are of the reader’s zone, but a day by itself stays that day', () => {
    expect(datesOf('en-GB', 'Asia/Tokyo').day('2026-04-18T22:30:00Z')).toBe('19 Apr 2026');
    for (const zone of ['Asia/Tokyo', 'America/Los_Angeles']) expect(datesOf('en-GB', zone).plainDay('2026-04-18')).toBe('18 Apr 2026');
    expect(datesOf('en-GB').plainDay('last spring')).toBe('last spring');
  });
  it('take the first language of the browser that is one', () => {
    expect(localeOf('de-AT,de;q=0.9,en;q=0.8')).toBe('de-AT');
    expect(localeOf('!!,*;q=0.5')).toBe('en-GB');
    expect(localeOf(null)).toBe('en-GB');
  });
  it.each([
    ['2026-11-29', 'UTC', '2026-11-29T00:00:00.000Z'],
    ['2026-11-29', 'Europe/Berlin', '2026-11-28T23:00:00.000Z'],
    ['2026-07-01', 'America/Los_Angeles', '2026-07-01T07:00:00.000Z'],
    ['2026-07-01', 'Asia/Kolkata', '2026-06-30T18:30:00.000Z'],
    // The days on which the clock is put on and back, on either side of the world.
    ['2026-03-29', 'Europe/Berlin', '2026-03-28T23:00:00.000Z'],
    ['2026-10-25', 'Europe/Berlin', '2026-10-24T22:00:00.000Z'],
    ['2026-04-05', 'Pacific/Auckland', '2026-04-04T11:00:00.000Z'],
    ['2026-09-27', 'Pacific/Auckland', '2026-09-26T12:00:00.000Z'],
    ['2026-11-29', '<script>', '2026-11-29T00:00:00.000Z'],
  ])('%s in %s begins at %s', (day, zone, at) => expect(startOfDay(day, zone).toISOString()).toBe(at));
  it('a zone that is none is not taken', () => {
    expect(isZone('Europe/Berlin')).toBe(true);
    expect(isZone('<script>')).toBe(false);
    expect(datesOf('en-GB', '<script>').plainDay('2026-04-18')).toBe('18 Apr 2026');
  });
});
