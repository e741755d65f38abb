/** A worker as comlink speaks with it, without a script: it answers calls out of a table, or cannot be fetched, which it says once it is asked. */
export class StubWorker extends EventTarget {
  terminated = false;

  /**
   * @param answers what a call of each name gives; null: the script cannot be fetched. That is told a moment after the first call, not
   * after the beginning: else it would depend on the machine whether the first call meets this worker or the next.
   */
  constructor(private readonly answers: Readonly<Record<string, (...args: unknown[]) => unknown>> | null) {
    super();
  }

  breakDown(): void {
    this.dispatchEvent(new Event('error'));
  }

  postMessage(call: { id: string; type: string; path: string[]; argumentList: { value: unknown }[] }): void {
    // What is no call is comlink letting go of what nobody holds any more, whenever the engine finds the time.
    if (call.type !== 'APPLY') return;
    if (this.answers === null) return void setTimeout(() => this.breakDown(), 1);
    const value = this.answers[call.path[0]!]!(...call.argumentList.map((a) => a.value));
    setTimeout(() => this.dispatchEvent(new MessageEvent('message', { data: { id: call.id, type: 'RAW', value } })), 1);
  }

  terminate(): void {
    this.terminated = true;
  }
}
