'use client';

import { useMemo } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import type { StoredPractice } from '@/core/documents/practice';
import { isFailure } from '@/core/failure';
import { inferStrip, type StripAnswer } from '@/core/inference/answer';
import { practiceComparison, practicePasses, type PracticeScore } from '@/core/stand-ins/practice';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { widestWords, WORD_TITLES } from '@/ui/answer/inference-words';
import { comparisonAnswer, comparisonReason } from '../dyno/words';
import { msg } from './messages';

export interface Carried {
  readonly comparison: SideComparison | null;
  readonly strip: StripAnswer | null;
}

/** What the runs of the session say so far. */
export function useCarried(practice: StoredPractice | null): Carried {
  return useMemo(() => {
    if (!practice) return { comparison: null, strip: null };
    if (practice.setup.rig === 'strip') {
      const found = inferStrip({ measure: 'speed', runs: practicePasses(practice.runs) });
      return { comparison: null, strip: isFailure(found) ? null : found };
    }
    const found = practiceComparison(practice.setup, practice.runs);
    return { comparison: isFailure(found) ? null : found, strip: null };
  }, [practice]);
}

/** What the session says at the top, and why. */
export const answerFor = (
  practice: StoredPractice | null,
  score: PracticeScore | null,
  { comparison, strip }: Carried,
  speed: (mps: number) => string,
  money: (amount: number) => string,
): { answer: string; reason: string } => {
  if (!practice)
    return {
      answer: msg.practiseTheTruthIsHiddenThe,
      reason: msg.planAsYouWouldRunAs,
    };
  if (score) {
    const truly = `truly ${formatSigned(score.true_pct, 1, '%')}, ${score.trueWord}`;
    return {
      answer:
        score.right === null
          ? `You left it open${score.honest ? ', and the runs carried no more' : ', though the runs carried a word'}. It was ${truly}.`
          : score.right
            ? `Right${score.honest ? '' : ', by luck: the runs did not carry it'}: ${truly}.`
            : `Wrong: ${truly}.`,
      reason: `${score.runs} runs in ${score.stays} stays and ${formatNumber(score.minutes, 0)} minutes. Your figure was off by ${formatSigned(score.error_pct, 2, '%')}. A word the runs cannot carry is not worth saying, even when it happens to be true.`,
    };
  }
  if (practice.setup.rig === 'strip')
    return strip
      ? {
          answer: `${WORD_TITLES[strip.word]}: ${speed(strip.estimate)} in trap speed, ${speed(strip.low)} to ${speed(strip.high)}.`,
          reason: `${widestWords(strip, (half) => speed(half).replace('+', ''))} The air is taken out as far as these passes allow.`,
        }
      : { answer: msg.noAnswerYetDriveStockAnd, reason: msg.theAirSinksThroughTheNight };
  if (!comparison)
    return {
      answer: msg.noAnswerYetPullStockAnd,
      reason: msg.heatSoakIsRealHereRest,
    };
  return { answer: comparisonAnswer(comparison, 'the new part'), reason: comparisonReason(comparison, money) };
};
