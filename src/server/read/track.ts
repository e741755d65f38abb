import { xmlTree } from './markup';
import { fault, tabbed, type OpenResult } from './rows';

/** A point of a track: seconds since its epoch or since midnight, degrees, metres, metres a second. */
interface Point {
  readonly time_s: number;
  readonly lat_deg: number;
  readonly lon_deg: number;
  readonly altitude_m: number | null;
  readonly speed_mps: number | null;
}

const EARTH_RADIUS_m = 6_371_008.8;
const radians = (deg: number): number => (deg * Math.PI) / 180;

/** Great-circle distance, m (haversine on the mean sphere). */
function apart(a: Point, b: Point): number {
  const [p, q] = [radians(a.lat_deg), radians(b.lat_deg)];
  const h = Math.sin((q - p) / 2) ** 2 + Math.cos(p) * Math.cos(q) * Math.sin(radians(b.lon_deg - a.lon_deg) / 2) ** 2;
  return 2 * EARTH_RADIUS_m * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** The track as a table. Where it has no speed of its own, that is worked out from the positions either side of a point. */
function tableOf(container: string, points: readonly Point[]): OpenResult {
  if (points.length < 3) return fault(container, 'no_table');
  const own = points.filter((p) => p.speed_mps !== null).length > points.length / 2;
  let along = 0;
  const rows = points.map((p, i) => {
    if (i > 0) along += apart(points[i - 1]!, p);
    const [a, b] = [points[Math.max(0, i - 1)]!, points[Math.min(points.length - 1, i + 1)]!];
    const speed = own ? p.speed_mps : b.time_s > a.time_s ? apart(a, b) / (b.time_s - a.time_s) : null;
    return [p.time_s - points[0]!.time_s, p.lat_deg, p.lon_deg, p.altitude_m, along, speed].map((v) =>
      v === null || !Number.isFinite(v) ? '' : String(Number(v.toPrecision(12))),
    );
  });
  const names = [
    'Time (s)',
    'Latitude (°)',
    'Longitude (°)',
    'Altitude (m)',
    'Distance (m)',
    own ? 'Speed (m/s)' : 'Speed from positions (m/s)',
  ];
  return { refused: null, container, text: tabbed([names, ...rows]), unread: [] };
}

type Node = Record<string, unknown>;
const many = (value: unknown): Node[] => (Array.isArray(value) ? value : value === undefined ? [] : [value]) as Node[];
const figure = (value: unknown): number | null => {
  const number = typeof value === 'string' && value !== '' ? Number(value) : NaN;
  return Number.isFinite(number) ? number : null;
};

/** A GPX track (an open format of positions over time). */
export function openGpx(text: string): OpenResult {
  const container = 'a GPX track';
  const tree = xmlTree(text);
  if (!tree) return fault(container, 'damaged');
  const points: Point[] = [];
  for (const track of many((tree['gpx'] as Node | undefined)?.['trk']))
    for (const segment of many(track['trkseg']))
      for (const p of many(segment['trkpt'])) {
        const at = Date.parse(String(p['time'] ?? ''));
        const [lat, lon] = [figure(p['@lat']), figure(p['@lon'])];
        if (!Number.isFinite(at) || lat === null || lon === null) continue;
        const more = JSON.stringify(p['extensions'] ?? {});
        const speed = figure(p['speed']) ?? figure(/"speed":"([\d.]+)"/.exec(more)?.[1]);
        points.push({ time_s: at / 1000, lat_deg: lat, lon_deg: lon, altitude_m: figure(p['ele']), speed_mps: speed });
      }
  return tableOf(container, points);
}

const KNOT_mps = 1852 / 3600;
const DAY_s = 86_400;

function degrees(text: string, side: string): number | null {
  const m = /^(\d{1,3})(\d{2}\.\d+)$/.exec(text);
  return m ? (Number(m[1]) + Number(m[2]) / 60) * (/[SW]/.test(side) ? -1 : 1) : null;
}

function sound(sentence: string): boolean {
  const m = /^\$([^*]*)\*([0-9A-F]{2})\s*$/i.exec(sentence);
  if (!m) return false;
  let sum = 0;
  for (const c of m[1]!) sum ^= c.charCodeAt(0);
  return sum === parseInt(m[2]!, 16);
}

/** Sentences of a GPS receiver (NMEA 0183): RMC for time, place and speed, GGA for height. A sentence whose sum is wrong is left out. */
export function openNmea(text: string): OpenResult {
  const points = new Map<string, Point>();
  const heights = new Map<string, number>();
  let before = -1;
  let days = 0;
  let wrong = 0;
  for (const line of text.split(/\r?\n/)) {
    if (!line.startsWith('$')) continue;
    if (line.includes('*') && !sound(line)) {
      wrong += 1;
      continue;
    }
    const f = line.split('*')[0]!.split(',');
    const stamp = f[1] ?? '';
    const clock = /^(\d{2})(\d{2})(\d{2}(?:\.\d+)?)$/.exec(stamp);
    if (!clock) continue;
    if (/GGA$/.test(f[0]!)) {
      const height = figure(f[9]);
      if (height !== null) heights.set(stamp, height);
    }
    if (!/RMC$/.test(f[0]!) || f[2] !== 'A') continue;
    const second = Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3]);
    if (second < before - DAY_s / 2) days += 1;
    before = second;
    const [lat, lon, knots] = [degrees(f[3] ?? '', f[4] ?? ''), degrees(f[5] ?? '', f[6] ?? ''), figure(f[7])];
    if (lat === null || lon === null) continue;
    points.set(`${days}/${stamp}`, {
      time_s: second + days * DAY_s,
      lat_deg: lat,
      lon_deg: lon,
      altitude_m: null,
      speed_mps: knots === null ? null : knots * KNOT_mps,
    });
  }
  const list = [...points].map(([key, p]) => ({ ...p, altitude_m: heights.get(key.split('/')[1]!) ?? null }));
  const opened = tableOf('sentences of a GPS receiver', list);
  return opened.refused === null && wrong > 0 ? { ...opened, unread: [`${wrong} sentences whose check sum is wrong`] } : opened;
}
