// The schemas of what a person edits, in one place: a page asks for them, and for the library they stand on, when somebody
// begins to edit.
export { jobDoc } from './job';
export { checkedChange, readKept } from './kept';
export { runDoc } from './run';
export { shopRuleDoc } from './shop-rules';
export { stripPassDoc, stripVisitDoc } from './strip';
export { testedPartDoc, unitDoc } from './unit';
