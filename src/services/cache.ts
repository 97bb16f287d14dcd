/** Keeps the `size` values used last. For things that are costly to make and never change under their key. */
export class Recent<K, V> {
  #kept = new Map<K, V>();
  constructor(private readonly size: number) {}

  async get(key: K, make: () => Promise<V> | V): Promise<V> {
    const known = this.#kept.get(key);
    if (known !== undefined) {
      this.#kept.delete(key);
      this.#kept.set(key, known);
      return known;
    }
    const made = await make();
    this.#kept.set(key, made);
    if (this.#kept.size > this.size) this.#kept.delete(this.#kept.keys().next().value as K);
    return made;
  }
}
