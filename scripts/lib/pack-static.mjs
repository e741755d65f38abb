import { readdirSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const [toBrotli, toGzip] = [promisify(brotliCompress), promisify(gzip)];
/** Pictures and fonts are packed already. */
const PACKABLE = /\.(js|css|json|svg|map)$/;
/** What fits a packet or two gains nothing. */
const LEAST_BYTES = 1024;

/** Packs every file under a folder beside itself, as small as it goes: once at the build, instead of anew for every browser. */
export async function packStatic(folder) {
  const names = readdirSync(folder, { recursive: true, withFileTypes: true });
  const files = names.filter((f) => f.isFile() && PACKABLE.test(f.name)).map((f) => join(f.parentPath ?? f.path, f.name));
  await Promise.all(
    files.map(async (file) => {
      const bytes = await readFile(file);
      if (bytes.length < LEAST_BYTES) return;
      const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length };
      await writeFile(`${file}.br`, await toBrotli(bytes, { params }));
      await writeFile(`${file}.gz`, await toGzip(bytes, { level: 9 }));
    }),
  );
  return files.length;
}
