import { sourceWords, type SourceClass } from '@underpass/contracts';

/** A source as it is called: its own name, with what it is where it has one. */
export function sourceText(source: string): string {
  const at = source.indexOf(':');
  const of = sourceWords[(at < 0 ? source : source.slice(0, at)) as SourceClass] ?? source;
  return at < 0 ? of : `${of} “${source.slice(at + 1)}”`;
}
