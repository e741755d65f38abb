import { testedPartDoc, type TestedPartDoc } from '@/core/documents/unit';
import { versionedTable } from './versioned';

/** Parts of intakes other than throttle bodies that were flow-tested. */
export const { list: listParts, add: addPart, save: savePart } = versionedTable<TestedPartDoc>('tested_part', testedPartDoc, 'part');
