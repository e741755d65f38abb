import type { SideComparison } from '@/core/compare/sides';
import type { AdviceWord } from '@/core/documents/verdict';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import type { Fault, Reason } from '@/core/verdict/advice';
import type { EffectBar } from '@/core/verdict/bars';
import type { VerdictReport } from '@/core/verdict/report';
import { clearWords, confounderWords, intervalText, stretchName } from '@/features/test/dyno/words';
import { nextWords, widestWords } from '@/ui/answer/inference-words';
import { intervalText as speedInterval, MEASURE_NAMES, measureText, movedWords } from '@/features/test/strip/words';

/** What a bar of a measured effect is of. */
export const barName = (b: EffectBar): string => (b.of === 'dyno' ? 'dyno, where it decides' : `strip, ${MEASURE_NAMES[b.of]}`);

export const ADVICE_TITLES: Readonly<Record<AdviceWord, string>> = {
  keep: 'Keep it',
  fix: 'Keep it, but put something right',
  back: 'Go back to stock',
  more: 'Test more',
};

const lower = (text: string): string => `${text.charAt(0).toLowerCase()}${text.slice(1)}`;
const pct = (v: number): string => formatSigned(v, 1, '%');
const plain = (amount: number): string => formatNumber(amount, 0);

/** What is wrong and can be mended. */
export function faultWords(f: Fault, pack: UnitPack): string {
  switch (f.code) {
    case 'idle_hunts':
      return `The idle hunts every ${formatNumber(f.every_s, 1)} s by ±${formatNumber(f.by_rpm, 0)} rpm, which it did not on stock: relearn it, then look for a leak.`;
    case 'idle_rough':
      return `The idle is rougher: ±${formatNumber(f.spread_rpm, 0)} rpm against ±${formatNumber(f.was_rpm, 0)} rpm on stock.`;
    case 'lazy':
      return `Air follows the throttle later: ${formatNumber(f.air_s, 2)} s against ${formatNumber(f.was_s, 2)} s. Look at the pedal map.`;
    case 'idle_floor':
      return `Shut, the blade leaks enough to hold the engine at ${formatNumber(f.floor_rpm, 0)} rpm, above the idle of ${formatNumber(f.idle_rpm, 0)} rpm: set the stop, or close the gap.`;
    case 'lip':
      return `The bore is ${formatQuantity(2 * f.overhang_m, 'fineLength', pack)} wider than the manifold, half of that on each side: bore the manifold to match.`;
  }
}

function dynoWords(c: Extract<Reason, { code: 'dyno' }>): string {
  const where = stretchName(c.stretch);
  const interval = intervalText(c.stretch);
  switch (c.word) {
    case 'gain':
    case 'loss':
      return `Dyno: ${c.word} of ${pct(c.stretch.mean_pct)} over ${where} (${interval}).`;
    case 'no difference that matters':
      return `Dyno: no difference that matters over ${where}, ${pct(c.stretch.mean_pct)} and surely within ±${formatNumber(c.threshold_pct, 1)} %.`;
    default:
      return `Dyno: can’t tell yet, ${pct(c.stretch.mean_pct)} over ${where} (${interval}).`;
  }
}

/** One reason of the advice in a sentence. */
export function reasonWords(r: Reason, pack: UnitPack): string {
  switch (r.code) {
    case 'nothing_run':
      return 'Nothing has been run on both sides yet.';
    case 'unfair':
      return `The dyno comparison is unfair and decides nothing: ${lower(confounderWords(r.confounder, pack).what)}`;
    case 'dyno':
      return dynoWords(r);
    case 'clear':
      return `Over the range: ${clearWords(r.comparison)}.`;
    case 'used':
      return `In the rev band between shifts (${formatNumber(r.stretch.from_rpm, 0)} to ${formatNumber(r.stretch.to_rpm, 0)} rpm): ${pct(r.stretch.mean_pct)}, ${intervalText(r.stretch)}.`;
    case 'strip': {
      const speed = (v: number): string => measureText('trap_mps', v, pack, true);
      return `Strip: ${r.word.replace("can't", 'can’t')}, ${speed(r.trap_mps)} in trap speed (${speedInterval('trap_mps', r.low_mps, r.high_mps, pack)}) from ${r.passes} passes.`;
    }
    case 'strip_moved':
      return `Where on the run: ${lower(movedWords(r.moved))}`;
    case 'next_runs':
      return `Dyno: ${lower(nextWords(r.next, r.last, 'dyno', plain, `at most ${pct(r.low)} to ${pct(r.high)}`))}`;
    case 'next_passes':
      return `Strip: ${lower(nextWords(r.next, r.last, 'strip', plain, `at most ${speedInterval('trap_mps', r.low, r.high, pack)}`))}`;
    case 'assumed':
      return `This rests on an assumption: ${lower(widestWords(r.answer, (half) => `${formatNumber(half, 1)} %`))}`;
    case 'rerun_cool':
      return `Run it again cool: the inlet air was ${formatQuantity(Math.abs(r.by_K), 'temperatureRise', pack)} ${r.by_K > 0 ? 'warmer' : 'cooler'} with the new part, worth about ${pct(r.worth_pct)}, more than the whole difference. More runs as hot would not tell.`;
    case 'predicted':
      return `The model said ${pct(r.predicted_pct)}, the dyno ${pct(r.measured_pct)}: ${r.within ? 'inside' : 'outside'} what was measured with its interval.`;
    case 'inlet':
      return `Inlet air was ${formatQuantity(Math.abs(r.by_K), 'temperatureRise', pack)} ${r.by_K > 0 ? 'warmer' : 'cooler'} with the new part, worth about ${pct(r.worth_pct)}: the true effect is that much ${r.by_K > 0 ? 'better' : 'worse'}.`;
    case 'elsewhere':
      return `Spend the next money on the ${r.part}: ${pct(r.gain_pct)} at peak.`;
    case 'fault':
      return faultWords(r.fault, pack);
  }
}

/** Where the dyno is clear of nothing, for the head line; empty where it is nowhere. */
const clearOf = (c: SideComparison | null): string => (c ? clearWords(c) : '');

/** The verdict in one sentence, and the sentence under it. */
export function verdictAnswer(report: VerdictReport, pack: UnitPack): { answer: string; reason: string } {
  const name = report.unit?.doc.name ?? 'the new throttle';
  const { comparison, strip } = report.facts;
  const { advice, word } = report;
  const decided = word !== advice.word;
  const head = ADVICE_TITLES[word];
  const dyno = advice.reasons.find((r) => r.code === 'dyno');
  const pass = advice.reasons.find((r) => r.code === 'strip');
  const unfair = advice.reasons.find((r) => r.code === 'unfair');
  const assumed = advice.reasons.some((r) => r.code === 'assumed');
  const cool = advice.reasons.some((r) => r.code === 'rerun_cool');
  const what = (): string => {
    if (decided) return 'decided by hand';
    switch (advice.word) {
      case 'keep':
      case 'fix':
        if (dyno?.word === 'gain')
          return `${name} gained ${pct(dyno.stretch.mean_pct)} over ${stretchName(dyno.stretch)}${assumed ? ', by an assumed scatter' : ''}`;
        if (pass?.word === 'gain') return `${name} is ${measureText('trap_mps', pass.trap_mps, pack, true)} in trap speed`;
        return clearOf(comparison) || `${name} does what it should`;
      case 'back':
        if (dyno?.word === 'loss') return `${name} lost ${pct(dyno.stretch.mean_pct)} over ${stretchName(dyno.stretch)}`;
        if (pass?.word === 'loss') return `${name} is ${measureText('trap_mps', pass.trap_mps, pack, true)} in trap speed`;
        return `${name} makes no difference that matters`;
      case 'more':
        if (unfair) return 'the comparison is not a fair one';
        if (cool) return 'run it again cool; the inlet air is worth more than the difference';
        if (clearOf(comparison)) return `it depends on where the engine is driven: ${clearOf(comparison)}`;
        return comparison || strip ? 'these tests cannot tell yet' : 'nothing has been run yet';
    }
  };
  const own = advice.reasons.slice(0, 2).map((r) => reasonWords(r, pack));
  return { answer: `${head}: ${what()}.`, reason: own.join(' ') };
}
