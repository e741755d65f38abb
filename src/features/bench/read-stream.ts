import type { FlowBenchReading } from '@/core/stand-ins/flow-bench';

/** Reads a device's stream line by line until it ends or is stopped. */
export async function* deviceReadings(settings: object, signal: AbortSignal): AsyncGenerator<FlowBenchReading> {
  const response = await fetch('/api/stand-ins/flow-bench', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(settings),
    signal,
  });
  if (!response.ok || !response.body)
    throw new Error(((await response.json().catch(() => ({}))) as { message?: string }).message ?? 'The bench does not answer.');
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + value).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) if (line !== '') yield JSON.parse(line) as FlowBenchReading;
  }
}
