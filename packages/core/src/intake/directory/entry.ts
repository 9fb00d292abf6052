/** An entry of a directory [RFC 4512 2.2]: its name, and its attributes with the values of each. */
export interface DirectoryEntry {
  dn: string;
  /** By the attribute's name in small letters, options such as ;lang-ja kept; values in their order. */
  attributes: ReadonlyMap<string, readonly string[]>;
  /** Line of a file it begins in, counted from 1; of what came over the network, its place. */
  line: number;
}

/** Values of an attribute in any of its options. */
export function valuesOf(entry: DirectoryEntry, name: string): readonly string[] {
  const own = entry.attributes.get(name.toLowerCase());
  if (own) return own;
  const prefix = `${name.toLowerCase()};`;
  return [...entry.attributes].find(([key]) => key.startsWith(prefix))?.[1] ?? [];
}
