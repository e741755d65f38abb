import type { PracticeDecision } from '@/core/documents/practice';

/** The words a session can end with. */
export const WORDS: Readonly<Record<PracticeDecision['word'], string>> = {
  gain: 'gain',
  loss: 'loss',
  'no difference that matters': 'no difference that matters',
  "can't tell yet": 'can’t tell',
};
