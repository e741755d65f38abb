import { fileKind } from '@/core/read/text';
import { TooLarge, unpackGzip, unpackZip, weighZip } from './archive';
import { openJson } from './json';
import { longHead, openLong } from './long';
import { openHtml, openXml } from './markup';
import { openMeasurement } from './measurement';
import { fault, type Opened, type OpenResult } from './rows';
import { openWorkbook } from './sheet';
import { openPairs, pairsHead } from './pairs';
import { openSideways, sidewaysHead } from './sideways';
import { openGpx, openNmea } from './track';

/** What kind of container the first bytes of a file are; null: a plain table of text, or nothing we open. */
export type ContainerKind =
  'zip' | 'gzip' | 'workbook' | 'measurement' | 'json' | 'html' | 'xml' | 'gpx' | 'nmea' | 'long' | 'sideways' | 'pairs';

const starts = (bytes: Uint8Array, ...magic: number[]): boolean => magic.every((b, i) => bytes[i] === b);

function textHead(head: Uint8Array): string | null {
  const kind = fileKind(head);
  if (kind.kind === 'not text') return null;
  return new TextDecoder(kind.encoding)
    .decode(head)
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n');
}

export function containerKind(head: Uint8Array): ContainerKind | null {
  if (starts(head, 0x50, 0x4b, 0x03, 0x04)) return 'zip';
  if (starts(head, 0x1f, 0x8b)) return 'gzip';
  if (starts(head, 0xd0, 0xcf, 0x11, 0xe0)) return 'workbook';
  if (String.fromCharCode(...head.subarray(0, 3)) === 'MDF') return 'measurement';
  const text = textHead(head)?.trimStart();
  if (text === undefined) return null;
  // A line of a log may begin with its moment in brackets.
  if (/^[[{]\s*(["[{\]}]|-?\d|true|false|null)/.test(text) && !/^\[[^\]\n]*\][ \t]*[\p{L}_]/u.test(text)) return 'json';
  if (/^(<\?xml[^>]*>\s*)?(<!--[\s\S]*?-->\s*)*<gpx\b/i.test(text)) return 'gpx';
  if (/^(<!doctype html|<html|<head|<body|<table|<div|<meta|<!--StartFragment)/i.test(text)) return 'html';
  if (/^<(\?xml|[A-Za-z_])/.test(text)) return /<table\b/i.test(text) ? 'html' : 'xml';
  if (/^\$G[A-Z]{4},/m.test(text.slice(0, 4000)) && /^\$G/.test(text)) return 'nmea';
  if (longHead(text.slice(0, 8192))) return 'long';
  if (pairsHead(text)) return 'pairs';
  return sidewaysHead(text) ? 'sideways' : null;
}

const TABLE_NAME = /\.(csv|txt|tsv|dat|log|asc|json|ndjson|xml|html?|gpx|nmea|mf4|xlsx|ods|xls|gz|tab)$/i;
const hidden = (name: string): boolean => /(^|\/)(\.|__MACOSX)/.test(name) || name.endsWith('/');

/** Documents that are parsed as one text, how large they may be, and what they are called. */
const WHOLE_TEXTS: ReadonlySet<ContainerKind> = new Set(['json', 'html', 'xml', 'gpx', 'nmea', 'long', 'sideways', 'pairs']);
const WHOLE_TEXT_LIMIT_BYTES = 80 * 1024 * 1024;
const WORDS: Readonly<Partial<Record<ContainerKind, string>>> = {
  json: 'a JSON document',
  html: 'a web page',
  xml: 'an XML document',
  gpx: 'a GPX track',
  nmea: 'sentences of a GPS receiver',
  long: 'a list of readings, one a line',
  sideways: 'a table that lies on its side',
  pairs: 'a list of named figures, a moment a line',
};

/** How deep containers may be in each other. */
const MOST_DEEP = 3;

/**
 * Opens a container and finds the table in it. `choice` names the sheet or the file meant where there are several, parts of
 * it behind " › ". Plain text comes back as it is.
 */
export function openContainer(bytes: Uint8Array, choice: string | null = null, depth = 0): OpenResult {
  const kind = containerKind(bytes.subarray(0, 65_536));
  if (depth > MOST_DEEP) return fault('an archive in archives', 'too_large');
  if (kind === null) return { refused: null, container: '', text: bytes, unread: [] };
  const [first = null, ...rest] = choice === null ? [] : choice.split(' › ');
  const inner = rest.length > 0 ? rest.join(' › ') : null;
  const text = (): string => textHead(bytes) ?? '';
  if (WHOLE_TEXTS.has(kind) && bytes.length > WHOLE_TEXT_LIMIT_BYTES) return fault(WORDS[kind] ?? 'a document', 'too_large');
  switch (kind) {
    case 'gzip':
      try {
        return within('a gzip file', openContainer(unpackGzip(bytes), choice, depth + 1));
      } catch (error) {
        return fault('a gzip file', error instanceof TooLarge ? 'too_large' : 'damaged');
      }
    case 'zip':
      return openZip(bytes, first, inner, choice, depth);
    case 'workbook':
      return openWorkbook(bytes, choice);
    case 'measurement':
      return openMeasurement(bytes, choice);
    case 'json':
      return openJson(text(), choice);
    case 'html':
      return openHtml(text(), choice);
    case 'xml':
      return openXml(text(), choice);
    case 'gpx':
      return openGpx(text());
    case 'nmea':
      return openNmea(text());
    case 'long': {
      const all = text();
      return openLong(all, longHead(all.slice(0, 8192))!) ?? { refused: null, container: '', text: bytes, unread: [] };
    }
    case 'sideways':
      return openSideways(text()) ?? { refused: null, container: '', text: bytes, unread: [] };
    case 'pairs':
      return openPairs(text()) ?? { refused: null, container: '', text: bytes, unread: [] };
  }
}

/** A file's table, set upright where it lies on its side in what it was in. */
export function openTable(bytes: Uint8Array, choice: string | null): OpenResult {
  const opened = openContainer(bytes, choice);
  if (opened.refused !== null || opened.container === '' || containerKind(opened.text.subarray(0, 65_536)) !== 'sideways') return opened;
  const upright = within(opened.container, openContainer(opened.text));
  return upright.refused === null && upright.container !== opened.container
    ? { ...upright, unread: [...opened.unread, ...upright.unread] }
    : opened;
}

function within(container: string, opened: OpenResult): OpenResult {
  if (opened.refused !== null) return opened;
  return { ...opened, container: opened.container === '' ? container : `${opened.container} in ${container}` };
}

function openZip(bytes: Uint8Array, first: string | null, inner: string | null, choice: string | null, depth: number): OpenResult {
  const container = 'a zip archive';
  try {
    let workbook = false;
    // Names only: nothing is unpacked before it is known what it is.
    const names: string[] = [];
    unpackZip(bytes, (name) => {
      if (name === '[Content_Types].xml' || name === 'mimetype' || name === 'content.xml' || name === 'xl/workbook.xml') workbook = true;
      if (!hidden(name) && TABLE_NAME.test(name)) names.push(name);
      return false;
    });
    if (workbook) {
      weighZip(bytes);
      return openWorkbook(bytes, choice);
    }
    const [only] = names;
    if (only === undefined) return fault(container, 'no_table');
    const wanted = names.length === 1 ? only : first;
    if (wanted === null || !names.includes(wanted)) {
      const entries = unpackZip(bytes, (name) => names.includes(name));
      return { refused: 'which_table', container, tables: entries.map((e) => ({ name: e.name, rows: lines(e.bytes), columns: 0 })) };
    }
    const [entry] = unpackZip(bytes, (name) => name === wanted);
    if (!entry) return fault(container, 'damaged');
    const opened = openContainer(entry.bytes, names.length === 1 && first !== wanted ? choice : inner, depth + 1);
    if (opened.refused === 'which_table')
      return { ...opened, tables: opened.tables.map((t) => ({ ...t, name: names.length === 1 ? t.name : `${wanted} › ${t.name}` })) };
    if (opened.refused !== null) return opened;
    const found = within(`“${wanted}” of ${container}`, opened);
    return found.refused === null
      ? ({ ...found, unread: [...found.unread, ...names.filter((n) => n !== wanted)] } satisfies Opened)
      : found;
  } catch (error) {
    return fault(
      container,
      error instanceof TooLarge ? 'too_large' : /encrypt|unknown compression/i.test(String(error)) ? 'encrypted' : 'damaged',
    );
  }
}

function lines(bytes: Uint8Array): number {
  let n = 0;
  for (const b of bytes) if (b === 0x0a) n += 1;
  return n;
}
