/** A stand-in’s stream under a test’s hand: what was opened, and what comes through. */
export class FakeEventSource {
  static opened: FakeEventSource[] = [];
  static latest(): FakeEventSource {
    return FakeEventSource.opened.at(-1)!;
  }
  onmessage: ((e: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  closed = false;
  private readonly ends: (() => void)[] = [];
  constructor(readonly url: string) {
    FakeEventSource.opened.push(this);
  }
  addEventListener(type: string, listener: () => void): void {
    if (type === 'end') this.ends.push(listener);
  }
  close(): void {
    this.closed = true;
  }
  give(reading: unknown): void {
    this.onmessage?.({ data: JSON.stringify(reading) });
  }
  end(): void {
    this.ends.forEach((e) => e());
  }
}
