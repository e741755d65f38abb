import type { Doubt } from './guess';

/** What is doubtful about a column, in words: for the record of a run and for the API's description. */
export const DOUBT_WORDS: Readonly<Record<Doubt, string>> = {
  'unit from the figures': 'unit guessed from its figures',
  'unit by power and torque': 'unit found by power = torque × speed',
  'unit by what this engine makes': 'the only unit this engine makes possible',
  'unit not said': 'not used: in which unit is it?',
  'figures only': 'guessed from its figures alone',
  'unit does not suit the figures': 'not used: the file’s unit does not suit its figures',
  'power and torque disagree': 'power and torque do not fit each other in the units the file names',
  'gauge by its figures': 'gauge pressure: no engine has so little absolute',
  'gauge or absolute': 'not used: gauge or absolute pressure?',
  'another of its kind': 'another column of the same kind',
  'not a reading': 'not used: a loss, a target, a sensor’s voltage or a factor',
  'no figures': 'not used: no figures in it',
  'a clock of its own': 'has a clock of its own; what was made of it stands below',
};
