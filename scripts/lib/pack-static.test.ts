import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';

it('packs scripts and styles beside themselves without changing them, and leaves pictures and small things alone', () => {
  const folder = mkdtempSync(join(tmpdir(), 'vanner-pack-'));
  try {
    mkdirSync(join(folder, 'chunks'));
    const script = 'const a = "throttle body";\n'.repeat(400);
    writeFileSync(join(folder, 'chunks', 'a.js'), script);
    writeFileSync(join(folder, 'small.css'), 'a{}');
    writeFileSync(join(folder, 'font.woff2'), Buffer.alloc(5000));
    const pack = '(await import(`${process.cwd()}/scripts/lib/pack-static.mjs`)).packStatic(process.argv[1])';
    execFileSync(process.execPath, ['--input-type=module', '-e', `await ${pack}`, folder]);
    expect(brotliDecompressSync(readFileSync(join(folder, 'chunks', 'a.js.br'))).toString()).toBe(script);
    expect(gunzipSync(readFileSync(join(folder, 'chunks', 'a.js.gz'))).toString()).toBe(script);
    expect(readFileSync(join(folder, 'chunks', 'a.js.br')).length).toBeLessThan(script.length / 20);
    for (const name of ['small.css.br', 'font.woff2.br', 'font.woff2.gz']) expect(existsSync(join(folder, name))).toBe(false);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
