/**
 * A map that is another one but for some entries, and costs no more than these. The map below must not change any more. Layered on a
 * layered map it takes that one's entries along, so that there are never more than two to look into.
 */
export class LayeredMap<Key, Value> extends Map<Key, Value> {
  /** The map below. */
  readonly base: ReadonlyMap<Key, Value>;
  readonly #above: Map<Key, Value>;
  readonly #gone: Set<Key>;
  /** Keys whose values were set in this very map: nobody else has them. */
  readonly #own = new Set<Key>();
  #count: number;

  constructor(below: ReadonlyMap<Key, Value>) {
    super();
    this.base = below instanceof LayeredMap ? below.base : below;
    this.#above = below instanceof LayeredMap ? new Map(below.#above) : new Map();
    this.#gone = below instanceof LayeredMap ? new Set(below.#gone) : new Set();
    this.#count = below.size;
  }

  override get size(): number {
    return this.#count;
  }

  override get(key: Key): Value | undefined {
    return (
      this.#above.get(key) ??
      (this.#above.has(key) || this.#gone.has(key) ? undefined : this.base.get(key))
    );
  }

  override has(key: Key): boolean {
    return this.#above.has(key) || (!this.#gone.has(key) && this.base.has(key));
  }

  override set(key: Key, value: Value): this {
    if (!this.has(key)) this.#count++;
    this.#gone.delete(key);
    this.#above.set(key, value);
    this.#own.add(key);
    return this;
  }

  override delete(key: Key): boolean {
    if (!this.has(key)) return false;
    this.#count--;
    this.#above.delete(key);
    this.#own.delete(key);
    if (this.base.has(key)) this.#gone.add(key);
    return true;
  }

  override clear(): void {
    for (const key of [...this.keys()]) this.delete(key);
  }

  /** Whether a value was set in this very map, and isn't the one below's as well. */
  owns(key: Key): boolean {
    return this.#own.has(key);
  }

  /** The keys by which it may differ from the map below. */
  *differing(): Generator<Key, undefined> {
    yield* this.#above.keys();
    yield* this.#gone;
  }

  /** By how many keys it may differ from the map below. */
  get differences(): number {
    return this.#above.size + this.#gone.size;
  }

  override *entries(): Generator<[Key, Value], undefined> {
    for (const entry of this.base) {
      const [key] = entry;
      if (this.#gone.has(key)) continue;
      const above = this.#above.get(key);
      if (above !== undefined) yield [key, above];
      else if (!this.#above.has(key)) yield entry;
    }
    for (const entry of this.#above) if (!this.base.has(entry[0])) yield entry;
  }

  override *keys(): Generator<Key, undefined> {
    for (const [key] of this.entries()) yield key;
  }

  override *values(): Generator<Value, undefined> {
    for (const [, value] of this.entries()) yield value;
  }

  override [Symbol.iterator](): Generator<[Key, Value], undefined> {
    return this.entries();
  }

  override forEach(each: (value: Value, key: Key, map: Map<Key, Value>) => void): void {
    for (const [key, value] of this.entries()) each(value, key, this);
  }
}

/**
 * Returns a value of a map so that it can be changed in place; undefined where the map has none. A value that a map below has as well
 * is copied first.
 */
export function toChange<Key, Value>(
  map: Map<Key, Value>,
  key: Key,
  copy: (value: Value) => Value,
): Value | undefined {
  const value = map.get(key);
  if (value === undefined || !(map instanceof LayeredMap) || map.owns(key)) return value;
  const copied = copy(value);
  map.set(key, copied);
  return copied;
}

/** From this share of a map on, a copy of it costs less than a layer of what changes. */
const MANY = 0.2;

/**
 * Returns a copy of a map that can be changed: a layer on it where few entries will change, else a whole copy. The map itself must not
 * change any more.
 *
 * @param changes about how many entries will change
 */
export function changeable<Key, Value>(
  below: ReadonlyMap<Key, Value>,
  changes: number,
): Map<Key, Value> {
  // Layers on layers would otherwise grow until there is more in them than below.
  const differences = below instanceof LayeredMap ? below.differences : 0;
  return changes + differences > below.size * MANY ? new Map(below) : new LayeredMap(below);
}
