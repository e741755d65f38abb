/** Says under what name an answer is saved: headers hold no other script than ASCII, so the name stands in them twice. */
export function attachment(name: string): string {
  const plain =
    name
      .normalize('NFKD')
      .replace(/[^\x20-\x7e]/g, '')
      .replace(/["\\/;%]/g, '') || 'file';
  const encoded = encodeURIComponent(name.replace(/\p{Surrogate}/gu, '')).replace(
    /['()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `attachment; filename="${plain}"; filename*=UTF-8''${encoded}`;
}

/** A table as a file. */
export const csvFile = (text: string, name: string): Response =>
  new Response(text, { headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': attachment(`${name}.csv`) } });
