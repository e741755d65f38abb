'use client';

import type { ThrottleDoc } from '@/core/documents/throttle';
import { isFailure } from '@/core/failure';
import { fullAngle, throttleOpenArea } from '@/core/flow/throttle';
import { areaPast, IN_LINE_rad, stopsCheck, type StopsCheck } from '@/core/install/stops';
import { formatQuantity } from '@/core/units/quantity';
import { useChosenUnit } from '@/features/fit/use-fit';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { stopWorking } from '@/core/working/install-working';
import { Pair } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Large, OneByOne } from './at-car';
import car from './at-car.module.css';
import styles from './install.module.css';
import { BigField } from './sensor';
import { msg } from './messages';

const DEGREE = Math.PI / 180;
/** A stop this far above the angle the blade was cut for keeps it off its bore, and one this far is open at idle. */
const HELD_rad = 1.5 * DEGREE;
const OPEN_rad = 6 * DEGREE;
const W = 300;
const H = 170;
const MOST_rad = 110 * DEGREE;

function stopsText(c: StopsCheck, share: string): string {
  if (c.shut === 'wedges')
    return 'Shut, the blade lies as flat as it was cut: it can wedge in its bore. Turn the closed stop in until it is held a hair above.';
  if (c.full === 'past')
    return `The open stop lets the blade go past in line: it passes ${share} of its area there, and can hang. Turn the open stop in.`;
  if (c.shut === 'open') return 'Shut, the blade stands open: the idle will be high. Turn the closed stop out.';
  if (c.full === 'short') return `Fully open it passes ${share} of its area: turn the open stop out until the blade is in line.`;
  return `Held off its bore when shut, in line when open: ${share} of its area.`;
}

type Tone = 'good' | 'failed' | 'quiet';

interface Looked {
  readonly throttle: ThrottleDoc;
  /** Angles of the blade at its two stops, and what they come to. */
  readonly shut: number;
  readonly full: number;
  readonly check: ReturnType<typeof stopsCheck>;
}

/** The blade as its stops leave it. */
function BladeDrawing({ shut, full, check }: Looked) {
  const { palette } = usePrefs();
  const blade = (a: number, color: string, dash?: string) => {
    const r = 54;
    // The bore lies level, the air from the left; square to it is upright.
    return (
      <path
        d={`M${70 - r * Math.sin(a)} ${80 + r * Math.cos(a)} L${70 + r * Math.sin(a)} ${80 - r * Math.cos(a)}`}
        stroke={color}
        strokeWidth="4"
        strokeLinecap="round"
        strokeDasharray={dash}
      />
    );
  };
  const [wrongShut, past] = isFailure(check) ? [false, false] : [check.shut !== 'held', check.full === 'past'];
  return (
    <svg viewBox="0 0 140 160" role="img" aria-label={msg.theBladeAtItsStops}>
      <path d="M0 24 H140 M0 136 H140" stroke={palette.ink} strokeWidth="3" />
      {blade(shut, wrongShut ? palette.danger : palette.ink)}
      {blade(full, past ? palette.danger : palette.series[0]!, '2 7')}
      <circle cx="70" cy="80" r="6" fill={palette.sheet} stroke={palette.ink} strokeWidth="2" />
      <text x="70" y="156" textAnchor="middle" fontSize="12" fill={palette.quiet}>
        {msg.shutSolidOpenDotted}
      </text>
    </svg>
  );
}

/** Open area against the blade's angle, with both stops on it. */
function AreaCurve({ throttle: t, shut, full }: Looked) {
  const { palette } = usePrefs();
  const net = throttleOpenArea(t, IN_LINE_rad);
  const x = (a: number): number => 36 + (a / MOST_rad) * (W - 46);
  const y = (share: number): number => H - 26 - share * (H - 44);
  const points = Array.from({ length: 111 }, (_, i) => i * DEGREE)
    .filter((a) => a >= t.closedAngle_rad)
    .map((a, i) => `${i === 0 ? 'M' : 'L'}${x(a).toFixed(1)} ${y(areaPast(t, a) / net).toFixed(1)}`)
    .join(' ');
  return (
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={msg.openAreaAgainstAngle}>
      <path d={`M36 ${y(0)} H${W - 8} M36 ${y(0)} V${y(1)}`} stroke={palette.hairline} />
      <rect x={x(IN_LINE_rad)} y={y(1)} width={x(MOST_rad) - x(IN_LINE_rad)} height={y(0) - y(1)} fill={palette.danger} opacity="0.08" />
      <path d={points} fill="none" stroke={palette.series[0]} strokeWidth="2.2" />
      {[shut, full].map((a, i) => (
        <circle key={i} cx={x(Math.min(a, MOST_rad))} cy={y(areaPast(t, Math.max(a, t.closedAngle_rad)) / net)} r="5" fill={palette.ink} />
      ))}
      {[0, 30, 60, 90].map((d) => (
        <text key={d} x={x(d * DEGREE)} y={H - 8} fontSize="12" textAnchor="middle" fill={palette.quiet}>
          {d}°
        </text>
      ))}
      <text x={x(IN_LINE_rad) + 3} y={y(1) + 14} fontSize="12" fill={palette.danger}>
        {msg.past}
      </text>
      <text x="2" y={y(1) + 4} fontSize="12" fill={palette.quiet}>
        100 %
      </text>
      <text x={x(20 * DEGREE)} y={y(1) + 4} fontSize="12" fill={palette.quiet}>
        {msg.openArea}
      </text>
    </svg>
  );
}

/** The same in large, one after the other, at the car. */
function AtTheCar({ throttle: t, share, said, tone }: { throttle: ThrottleDoc; share: string; said: string; tone: Tone }) {
  const { pack } = usePrefs();
  return (
    <Large title={msg.stops}>
      {(close) => (
        <OneByOne
          done={close}
          items={[
            {
              key: 'shut',
              show: (
                <BigField
                  say={`1. Closed stop: a hair above the ${formatQuantity(t.closedAngle_rad, 'fineAngle', pack)} the blade was cut for. It must not wedge.`}
                >
                  <DocField path="install.shut_rad" label={msg.shutAtReadNow} measure="fineAngle" nullable placeholder={msg.notRead} />
                </BigField>
              ),
            },
            { key: 'sensor', show: <p className={car['say']}>{msg.n2SensorSetTheClosedVolts}</p> },
            {
              key: 'full',
              show: (
                <BigField say={`3. Open stop: true full opening, ${formatQuantity(fullAngle(t), 'fineAngle', pack)} to 90°, never past.`}>
                  <DocField path="install.full_rad" label={msg.openToReadNow} measure="fineAngle" nullable placeholder={msg.notRead} />
                </BigField>
              ),
            },
            {
              key: 'said',
              show: (
                <>
                  <p className={car['big']} data-tone={tone === 'failed' ? 'danger' : tone}>
                    {share || '—'}
                  </p>
                  <p className={car['say']}>{said}</p>
                </>
              ),
            },
          ]}
        />
      )}
    </Large>
  );
}

/** What is not read at the car yet: it is drawn as it should be, and not told to be right. */
function unreadText(shut_rad: number | null, full_rad: number | null): string | null {
  if (shut_rad === null && full_rad === null) return 'Neither stop is read at the car yet: both are drawn as they should be.';
  if (shut_rad === null) return 'The closed stop is not read at the car yet: it is drawn as it should be.';
  return full_rad === null ? 'The open stop is not read at the car yet: it is drawn as it should be.' : null;
}

/** Stops of a mechanical unit: the three steps in their order, and the blade drawn at the angles they leave it. */
export function Stops() {
  const { pack } = usePrefs();
  const unit = useChosenUnit();
  const { shut_rad, full_rad } = useJob((s) => s.doc.install);
  if (!unit) return null;
  const t = unit.doc.throttle;
  const shut = shut_rad ?? t.closedAngle_rad + HELD_rad;
  const full = full_rad ?? IN_LINE_rad;
  const check = stopsCheck(t, shut, full, t.closedAngle_rad + OPEN_rad);
  const looked: Looked = { throttle: t, shut, full, check };
  const bad = isFailure(check) || !check.safe;
  const share = isFailure(check) || full_rad === null ? '' : formatQuantity(check.fullShare, 'fineShare', pack);
  const unread = bad ? null : unreadText(shut_rad, full_rad);
  const said = isFailure(check) ? 'The open stop lies below the closed one: swap them.' : (unread ?? stopsText(check, share));
  const tone: Tone = bad ? 'failed' : unread === null ? 'good' : 'quiet';
  return (
    <div className={styles['panel']}>
      <div className={styles['blade']}>
        <BladeDrawing {...looked} />
        <AreaCurve {...looked} />
      </div>
      <div>
        <ol className={styles['three']}>
          <li>
            {msg.closedStopAHairAboveThe} {formatQuantity(t.closedAngle_rad, 'fineAngle', pack)} {msg.theBladeWasCutFor}
          </li>
          <li>{msg.sensorClosedVoltsWhichMoveWith}</li>
          <li>
            {msg.openStopTrueFullOpening} {formatQuantity(fullAngle(t), 'fineAngle', pack)} {msg.to90NeverPast}
          </li>
        </ol>
        <DocField path="install.shut_rad" label={msg.shutAt} measure="fineAngle" nullable placeholder={msg.notRead} />
        <DocField path="install.full_rad" label={msg.openTo} measure="fineAngle" nullable placeholder={msg.notRead} />
        {share !== '' && (
          <Pair name="open at the full stop">
            <Num
              small
              label={msg.openAreaAtTheFullStop}
              working={() => stopWorking(full, areaPast(t, full), throttleOpenArea(t, IN_LINE_rad))}
            >
              {share}
            </Num>
          </Pair>
        )}
        <p role="status" className={tone === 'quiet' ? 'quiet' : styles[tone]}>
          {said}
        </p>
        <AtTheCar throttle={t} share={share} said={said} tone={tone} />
      </div>
    </div>
  );
}
