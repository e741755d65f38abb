'use client';

import { Link } from '@/ui/link';
import { runnerWith } from '@/core/job/runner-with';
import { resolvedInlet } from '@/core/job/wave-inlet';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { runnerWithWorking } from '@/core/working/wave-working';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Pair, Rule } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';

/** Below this a change of length is none that anybody hears, m. */
const NO_CHANGE_m = 5e-4;

/** Which way and how far the speed moves at which a runner fills best. */
const speedWords = (longer_m: number, length_m: number): string =>
  Math.abs(longer_m) < NO_CHANGE_m
    ? 'The runner stays as it is.'
    : `${longer_m > 0 ? 'Longer' : 'Shorter'}: it fills best about ${formatNumber((100 * Math.abs(longer_m)) / length_m, 0)} % ${longer_m > 0 ? 'lower' : 'higher'} in engine speed, unless the trumpet is cut to suit.`;

/** Individual throttles are part of their runners: how long those are with one of another length, and a way to try that. */
export function RunnerWith({ unit_m, name }: { unit_m: number | null; name: string }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const set = useJob((s) => s.set);
  if (sized.car.induction.kind !== 'individual') return null;
  const { length_m } = resolvedInlet(sized).figures;
  const runner = runnerWith(sized.car, length_m, unit_m);
  return (
    <>
      <Rule />
      <Heading>{msg.runnerWithIt}</Heading>
      {runner === null ? (
        <p className="quiet">{unit_m === null || sized.car.stock.fittings.length_m === null ? msg.giveBothLengths : msg.lengthsCannotBe}</p>
      ) : (
        <>
          <Pair name={`with ${name}`}>
            <Num small label={msg.runnerWithIt} working={() => runnerWithWorking(name, length_m, runner)}>
              {formatQuantity(runner.length_m, 'length', pack)}
            </Num>
          </Pair>
          <p>
            {speedWords(runner.longer_m, runner.length_m)}{' '}
            {Math.abs(runner.longer_m) >= NO_CHANGE_m && (
              <Link href="./air?look=waves" onClick={() => set('pick.inlet.length_m', runner.length_m)}>
                {msg.tryItInTheWaves}
              </Link>
            )}
          </p>
        </>
      )}
    </>
  );
}
