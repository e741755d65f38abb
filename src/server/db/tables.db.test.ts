import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'kysely';
import ts from 'typescript';
import { freshDatabase } from '../../../test/database';

/** A column as tables.ts tells it: what is read from it, and whether a new row may go without. */
interface Told {
  readonly reads: string;
  readonly empty: boolean;
  readonly optional: boolean;
}

const source = ts.createSourceFile('tables.ts', readFileSync(join(__dirname, 'tables.ts'), 'utf8'), ts.ScriptTarget.Latest, true);
const interfaces = new Map(source.statements.filter(ts.isInterfaceDeclaration).map((s) => [s.name.text, s]));

const members = (name: string): ts.PropertySignature[] => {
  const at = interfaces.get(name)!;
  const above = at.heritageClauses?.flatMap((h) => h.types.map((t) => t.expression.getText())) ?? [];
  return [...above.flatMap(members), ...at.members.filter(ts.isPropertySignature)];
};

/** The words of a union, without those that say it may be missing. */
const parts = (type: ts.TypeNode): string[] => (ts.isUnionTypeNode(type) ? type.types : [type]).map((t) => t.getText());
const kind = (words: readonly string[]): string =>
  [...new Set(words.filter((w) => w !== 'null' && w !== 'undefined').map((w) => (/^'/.test(w) ? 'string' : w)))].sort().join(' | ');

function told(type: ts.TypeNode): Told {
  const words = parts(type);
  const each: readonly ts.TypeNode[] = ts.isUnionTypeNode(type) ? type.types : [type];
  const wrapped = each.filter(ts.isTypeReferenceNode).find((t) => t.typeArguments !== undefined);
  const [select, insert] = wrapped?.typeArguments ?? [];
  const empty = words.includes('null') || (select !== undefined && parts(select).includes('null'));
  switch (wrapped?.typeName.getText()) {
    case 'JSONColumnType':
      return { reads: 'json', empty, optional: empty };
    case 'Generated':
      return { reads: kind(parts(select!)), empty, optional: true };
    case 'ColumnType':
      return { reads: kind(parts(select!)), empty, optional: ['never', 'undefined'].some((w) => parts(insert!).includes(w)) };
    default:
      return { reads: kind(words), empty, optional: empty };
  }
}

/** What comes out of a column of each type of the database's own. */
const READS: Record<string, readonly string[]> = {
  uuid: ['string'],
  text: ['string'],
  bigint: ['string', 'number | string'],
  integer: ['number'],
  smallint: ['number'],
  real: ['number'],
  'double precision': ['number'],
  boolean: ['boolean'],
  bytea: ['Buffer'],
  'timestamp with time zone': ['Date'],
};

it('the tables the compiler knows are those of a migrated database, column by column', async () => {
  const { db, drop } = await freshDatabase();
  try {
    const { rows } = await sql<{ table: string; column: string; type: string; empty: boolean; optional: boolean }>`
      SELECT table_name AS table, column_name AS column, data_type AS type, is_nullable = 'YES' AS empty,
        is_nullable = 'YES' OR column_default IS NOT NULL OR is_identity = 'YES' OR is_generated = 'ALWAYS' AS optional
      FROM information_schema.columns WHERE table_schema = 'public' AND table_name NOT LIKE 'kysely%' ORDER BY 1, 2`.execute(db);
    const known = members('Database').flatMap((t) =>
      members(t.type!.getText()).map((c) => [`${t.name.getText()}.${c.name.getText()}` as string, told(c.type!)] as const),
    );
    expect(known.map(([name]) => name).sort()).toEqual(rows.map((r) => `${r.table}.${r.column}`).sort());
    const tells = new Map(known);
    const differing = rows.flatMap((r) => {
      const name = `${r.table}.${r.column}`;
      const { reads, empty, optional } = tells.get(name)!;
      // What a document's column holds is its schema's to say.
      const fits = r.type === 'jsonb' ? true : (READS[r.type] ?? []).includes(reads);
      return [
        ...(fits ? [] : [`${name} is ${r.type}, told as ${reads}`]),
        ...(empty === r.empty ? [] : [`${name} ${r.empty ? 'may' : 'can never'} be empty`]),
        ...(optional && !r.optional ? [`${name} cannot be left out of a new row`] : []),
      ];
    });
    expect(differing).toEqual([]);
  } finally {
    await drop();
  }
});
