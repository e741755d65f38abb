/** A worker as comlink speaks with it, without a script: it answers calls out of a table, or cannot be fetched and says so. */
export class StubWorker extends EventTarget {
  terminated = false;

  /** @param answers what a call of each name gives; null: the script cannot be fetched, which is told a moment later. */
  constructor(private readonly answers: Readonly<Record<string, (...args: unknown[]) => unknown>> | null) {
    super();
    if (answers === null) this.breakDown();
  }

  breakDown(): void {
    setTimeout(() => this.dispatchEvent(new Event('error')), 5);
  }

  postMessage(call: { id: string; type: string; path: string[]; argumentList: { value: unknown }[] }): void {
    // What is no call is comlink letting go of what nobody holds any more, whenever the engine finds the time.
    if (this.answers === null || call.type !== 'APPLY') return;
    const value = this.answers[call.path[0]!]!(...call.argumentList.map((a) => a.value));
    setTimeout(() => this.dispatchEvent(new MessageEvent('message', { data: { id: call.id, type: 'RAW', value } })), 1);
  }

  terminate(): void {
    this.terminated = true;
  }
}
