import { XMLParser } from 'fast-xml-parser';
import { parse, type HTMLElement } from 'node-html-parser';
import { chosenTable, fault, type InnerTable, type OpenResult } from './rows';

const clean = (text: string): string => text.replace(/[\s\u00a0]+/g, ' ').trim();

/** The tables of a web page. Cells that span several columns are counted as that many. */
export function openHtml(text: string, choice: string | null): OpenResult {
  const page = parse(text, { comment: false, blockTextElements: { script: false, style: false, pre: true } });
  const tables = page.querySelectorAll('table').filter((t) => t.querySelectorAll('table').length === 0);
  const found = tables.map((table, i): InnerTable => {
    const title = clean(table.querySelector('caption')?.text ?? '') || `table ${i + 1}`;
    const rows = table.querySelectorAll('tr').map((tr) =>
      tr.querySelectorAll('th, td').flatMap((cell: HTMLElement) => {
        const span = Math.min(50, Math.max(1, Number(cell.getAttribute('colspan') ?? 1) || 1));
        return [clean(cell.text), ...Array.from({ length: span - 1 }, () => '')];
      }),
    );
    return { name: title, rows };
  });
  return chosenTable('a web page', found, choice);
}

type Node = Record<string, unknown>;
const isNode = (v: unknown): v is Node => typeof v === 'object' && v !== null && !Array.isArray(v);

/** A record's figures: what its attributes and its children without children say. */
function fieldsOf(node: Node, above = ''): [string, string][] {
  return Object.entries(node).flatMap(([key, value]): [string, string][] => {
    const name = key === '#text' ? above || 'value' : key.replace(/^@/, '');
    if (typeof value === 'string') return [[name, value]];
    if (!isNode(value)) return [];
    const unit = value['@unit'] ?? value['@units'];
    if (typeof value['#text'] === 'string') return [[typeof unit === 'string' ? `${name} (${unit})` : name, value['#text']]];
    return fieldsOf(value, name);
  });
}

function repeated(node: Node, path: string, found: InnerTable[], depth = 0): void {
  if (depth > 12) return;
  for (const [key, value] of Object.entries(node)) {
    const here = path === '' ? key : `${path}/${key}`;
    if (Array.isArray(value) && value.length >= 3 && value.every(isNode)) {
      const names = new Map<string, number>();
      const rows = (value as Node[]).map((record) => {
        const row: string[] = [];
        for (const [name, text] of fieldsOf(record)) {
          if (!names.has(name)) names.set(name, names.size);
          row[names.get(name)!] = text;
        }
        return row;
      });
      found.push({ name: here, rows: [[...names.keys()], ...rows.map((r) => Array.from({ length: names.size }, (_, i) => r[i] ?? ''))] });
    }
    for (const inner of Array.isArray(value) ? value.slice(0, 20) : [value]) if (isNode(inner)) repeated(inner, here, found, depth + 1);
  }
}

/** An XML document as a tree of texts; entities are not unfolded. Null: it is none. */
export function xmlTree(text: string): Node | null {
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    processEntities: false,
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
    removeNSPrefix: true,
  });
  try {
    return parser.parse(text, true) as Node;
  } catch {
    return null;
  }
}

/** An XML document of repeated records. */
export function openXml(text: string, choice: string | null): OpenResult {
  const tree = xmlTree(text);
  if (!tree) return fault('an XML document', 'damaged');
  const found: InnerTable[] = [];
  repeated(tree, '', found);
  return chosenTable('an XML document', found, choice);
}
