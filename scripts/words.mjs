/** `npm run words [-- PLACE]`: prints every text a person can see, a feature at a time, for reading through. */
import { ROOT } from './lib/paths.mjs';
import { placeOf, visibleTexts } from './lib/words.mjs';

const wanted = process.argv[2] ?? '';
let last = '';
for (const { file, line, text } of visibleTexts(ROOT)) {
  const place = placeOf(file);
  if (!place.includes(wanted)) continue;
  if (place !== last) console.log(`\n== ${place}`);
  last = place;
  console.log(`${file}:${line}\t${text}`);
}
