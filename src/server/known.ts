/**
 * Results by everything they hang on, so many of them at most; the first begun are let go of first. Kept from the moment they are
 * begun: two who ask for the same at once have it worked out once. What failed is not kept.
 *
 * Nothing that is kept may wait for the database: who holds a connection would wait for who waits for one.
 */
export class Known<T> {
  private readonly results = new Map<string, Promise<T>>();

  constructor(private readonly most: number) {}

  of(key: string): Promise<T> | undefined {
    return this.results.get(key);
  }

  /** What is known, else what `begin` comes to, which is known from now on. */
  orBegin(key: string, begin: () => Promise<T>): Promise<T> {
    const before = this.results.get(key);
    if (before) return before;
    const begun = begin();
    if (this.results.size >= this.most) this.results.delete(this.results.keys().next().value!);
    this.results.set(key, begun);
    begun.catch(() => {
      if (this.results.get(key) === begun) this.results.delete(key);
    });
    return begun;
  }
}
