import { codeKey } from "../keys.ts";

/** An item as words may name it. */
export interface NamedItem {
  id: number;
  code: string;
  name: string;
  barcode: string;
}

/** What words name. */
export interface Match {
  item: number;
  /** code: its code or barcode; own: what the customer calls it; name: its whole name; similar: some of its words. */
  by: "code" | "own" | "name" | "similar";
}

/** What may be meant by words; certain where it is one item that they name by its code, its whole name, or as the customer calls it. */
export interface Matched {
  certain: boolean;
  /** The likeliest first. */
  matches: Match[];
}

/** So many items are offered where words may mean several. */
const OFFERED = 5;
/** Below this a word is another word. */
const SIMILAR = 0.6;
/** Below this an item is not offered. */
const LIKELY = 0.34;

/** Finds the items that words name. */
export class ItemNames {
  readonly #byKey = new Map<string, number[]>();
  readonly #byName = new Map<string, number[]>();
  readonly #wordsOfItem = new Map<number, readonly string[]>();
  readonly #words = new Set<string>();
  readonly #alike = new Map<string, ReadonlyMap<string, number>>();
  readonly #own: ReadonlyMap<string, number>;

  /** `own`: what the customer calls items, by `wordsKey`. */
  constructor(items: Iterable<NamedItem>, own: ReadonlyMap<string, number>) {
    this.#own = own;
    for (const { id, code, name, barcode } of items) {
      for (const key of new Set([codeKey(code), codeKey(barcode)])) if (key !== "") add(this.#byKey, key, id);
      add(this.#byName, wordsKey(name), id);
      const words = wordsOf(`${code} ${name}`);
      this.#wordsOfItem.set(id, words);
      for (const word of words) this.#words.add(word);
    }
  }

  /** What is meant by some of the texts: cells of a row, or the words of a line with and without its unit. */
  find(texts: readonly string[]): Matched {
    const named = texts.map((text) => this.#namedBy(text)).filter((found) => found.length > 0);
    if (named.length > 0) return agreed(named);
    const inside = texts.flatMap((text) => this.#codesIn(text));
    if (inside.length > 0) {
      const found = sure("code", inside);
      // What is said beside the code may be a wish: “KIT-YARD without gloves” is for a person to settle.
      const isAll = texts.every((text) => this.#saysNoMore(text, inside[0] ?? 0));
      return { ...found, certain: found.certain && isAll };
    }
    return { certain: false, matches: this.#similar(texts.at(-1) ?? "") };
  }

  /** What one text names as a whole: as the customer calls it, else by code or barcode, else by name. */
  #namedBy(text: string): Match[] {
    const own = this.#own.get(wordsKey(text));
    if (own !== undefined) return [{ item: own, by: "own" }];
    const coded = this.#byKey.get(codeKey(text));
    if (coded) return coded.map((item) => ({ item, by: "code" }));
    return (this.#byName.get(wordsKey(text)) ?? []).map((item) => ({ item, by: "name" }));
  }

  #codesIn(text: string): number[] {
    return text.split(/[\s,;:()"'“”]+/).flatMap((word) => this.#byKey.get(codeKey(word)) ?? []);
  }

  /** Whether all words of a text are of an item's code and name. */
  #saysNoMore(text: string, item: number): boolean {
    const own = new Set(this.#wordsOfItem.get(item));
    return wordsOf(text).every((word) => own.has(word));
  }

  #similar(text: string): Match[] {
    const words = wordsOf(text);
    if (words.length === 0) return [];
    const alike = words.map((word) => this.#alikeTo(word));
    return [...this.#wordsOfItem]
      .map(([id, own]) => {
        const best = alike.map((found) => Math.max(0, ...own.map((word) => found.get(word) ?? 0)));
        const said = best.reduce((total, one) => total + one, 0);
        // What is said counts most; of two items that have it, the one with fewer other words.
        return { id, score: (said / words.length) * 0.8 + (said / Math.max(own.length, words.length)) * 0.2 };
      })
      .filter(({ score }) => score >= LIKELY)
      .sort((a, b) => b.score - a.score || a.id - b.id)
      .slice(0, OFFERED)
      .map(({ id }) => ({ item: id, by: "similar" }));
  }

  /** Words of items that are much like a word, and how much. */
  #alikeTo(word: string): ReadonlyMap<string, number> {
    const known = this.#alike.get(word);
    if (known) return known;
    const found = new Map<string, number>();
    for (const other of this.#words) {
      const how = likeness(word, other);
      if (how >= SIMILAR) found.set(other, how);
    }
    this.#alike.set(word, found);
    return found;
  }
}

function add(map: Map<string, number[]>, key: string, id: number): void {
  const ids = map.get(key);
  if (ids) ids.push(id);
  else map.set(key, [id]);
}

/** Several texts of a row name one item where there is one that they all name; a code beside the name of another is for a person. */
function agreed(named: readonly Match[][]): Matched {
  const all = named.flat();
  const first = all.filter(({ item }, i) => all.findIndex((other) => other.item === item) === i);
  const ofAll = first.filter(({ item }) => named.every((found) => found.some((one) => one.item === item)));
  return ofAll.length === 1 ? { certain: true, matches: ofAll } : { certain: false, matches: first };
}

function sure(by: Match["by"], items: readonly number[]): Matched {
  const different = [...new Set(items)];
  return { certain: different.length === 1, matches: different.map((item) => ({ item, by })) };
}

/** Words without case, accents, marks, and the plural; sizes as letters. */
export const wordsOf = (text: string): string[] =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/\bextra[ -]large\b/g, "xl")
    .split(/[^\p{L}\d]+/u)
    .filter((word) => word !== "" && !LITTLE.has(word))
    .map((word) => SIZES[word] ?? singular(word));

/** Sizes stand as letters in the names of items. */
const SIZES: Readonly<Record<string, string>> = { small: "s", medium: "m", large: "l" };

const LITTLE = new Set(["a", "an", "the", "of", "with", "and", "for", "x"]);

/** What makes two texts the same words. */
export const wordsKey = (text: string): string => wordsOf(text).join(" ");

function singular(word: string): string {
  if (word.length > 4 && word.endsWith("ies")) return `${word.slice(0, -3)}y`;
  if (word.length > 4 && /(?:x|ch|sh|ss)es$/.test(word)) return word.slice(0, -2);
  return word.length > 3 && /[^s]s$/.test(word) ? word.slice(0, -1) : word;
}

/** How much two words are alike, 0 to 1: by the pairs of letters that they share. */
function likeness(a: string, b: string): number {
  if (a === b) return 1;
  if (a.length < 3 || b.length < 3) return 0;
  const pairs = pairsOf(b);
  let shared = 0;
  for (const pair of pairsOf(a)) {
    const at = pairs.indexOf(pair);
    if (at === -1) continue;
    shared++;
    pairs.splice(at, 1);
  }
  return (2 * shared) / (a.length + b.length - 2);
}

const pairsOf = (word: string): string[] =>
  Array.from({ length: word.length - 1 }, (_, i) => word.slice(i, i + 2));
