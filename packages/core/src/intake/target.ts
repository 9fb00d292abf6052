import type { ObjectKind } from '@underpass/contracts';

/** A field of the kind that is taken in, as its schema has it. */
export interface IntakeField {
  name: string;
  type: 'text' | 'number' | 'boolean' | 'enum' | 'list' | 'structured';
  options: readonly string[];
  description: string;
  required: boolean;
  /** What would be right, in words. */
  expected: string;
  /** The kind of object it names. */
  kind?: ObjectKind;
  /** It is a whole number. */
  whole?: boolean;
}

/** Something that is there already, or comes to be. */
export interface Named {
  id: string;
  name?: string;
}

/** What is wrong with a field of a row. */
export interface FieldFault {
  field: string;
  problem: string;
  expected: string;
}

/** Where rows go: the fields of their kind, what is there, and how texts become an object. */
export interface IntakeTarget {
  kind: ObjectKind;
  fields: readonly IntakeField[];
  /** Nothing is there to look names up in: they are taken as they are. */
  alone?: boolean;
  /** Objects of a kind that are there. */
  objects: (kind: ObjectKind) => Iterable<Named>;
  /** An object out of the texts of its fields, over one that is there. */
  build: (kind: ObjectKind, texts: Readonly<Record<string, string>>, over: object | null) => { object: Named } | { faults: FieldFault[] };
  /** A key made of a name. */
  keyOf: (name: string) => string;
}
