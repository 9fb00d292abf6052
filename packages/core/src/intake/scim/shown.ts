import { ScimError } from './error.js';
import { pathOf } from './path.js';
import { attributeIn, extensionOf, topOf, type ScimAttribute, type ScimKind } from './schema.js';
import { schemasIn, type ScimResource } from './resource.js';

/** What of a resource is asked for [RFC 7644 3.9]. */
export interface Wanted {
  attributes?: readonly string[] | undefined;
  excluded?: readonly string[] | undefined;
}

/** An attribute that is asked for by its name: an extension as a whole, an attribute, or a part of it. */
interface Asked {
  extension: string | null;
  name: string | null;
  sub: string | null;
}

/**
 * A resource as it is told: what is never told is left out, and so is what nobody asked for.
 * @throws ScimError where both ways of asking are used
 * @source RFC 7643 7, “returned”; RFC 7644 3.9
 */
export function shownResource(kind: ScimKind, resource: ScimResource, { attributes, excluded }: Wanted): ScimResource {
  if (attributes && excluded) throw new ScimError('invalidValue', 'either attributes or excludedAttributes, not both');
  const named = (list: readonly string[] | undefined): Asked[] =>
    (list ?? []).flatMap((text): Asked[] => {
      const extension = extensionOf(kind, text);
      if (extension) return [{ extension: extension.id, name: null, sub: null }];
      try {
        const { extension: of, attribute, sub } = pathOf(kind, text, 'invalidPath');
        return [{ extension: of, name: attribute.name, sub: sub?.name ?? null }];
      } catch {
        // what nobody knows is not there
        return [];
      }
    });
  const [asked, left] = [attributes ? named(attributes) : null, named(excluded)];
  const ask = (extension: string | null, attribute: ScimAttribute, value: unknown): unknown => {
    const returned = attribute.returned ?? 'default';
    if (returned === 'never') return undefined;
    if (returned === 'always') return value;
    const of = (list: readonly Asked[]) =>
      list.filter((each) => each.extension === extension && (each.name === null || each.name === attribute.name));
    if (asked) {
      const wanted = of(asked);
      if (wanted.length === 0) return undefined;
      const subs = wanted.map(({ sub }) => sub);
      return subs.includes(null) ? value : onlyParts(value, (name) => subs.includes(name));
    }
    if (returned === 'request') return undefined;
    const gone = of(left).map(({ sub }) => sub);
    return gone.includes(null) ? undefined : gone.length ? onlyParts(value, (name) => !gone.includes(name)) : value;
  };
  const shown: ScimResource = { schemas: schemasIn(kind, resource) };
  for (const [key, value] of Object.entries(resource)) {
    const extension = extensionOf(kind, key);
    if (extension) {
      const inner = Object.fromEntries(
        Object.entries(value as object).flatMap(([name, part]) => {
          const attribute = attributeIn(extension.attributes, name);
          const told = attribute ? ask(extension.id, attribute, part) : undefined;
          return told === undefined ? [] : [[name, told]];
        }),
      );
      if (Object.keys(inner).length) shown[extension.id] = inner;
      continue;
    }
    const attribute = attributeIn(topOf(kind), key);
    const told = attribute ? ask(null, attribute, value) : undefined;
    if (told !== undefined) shown[key] = told;
  }
  return shown;
}

function onlyParts(value: unknown, want: (name: string) => boolean): unknown {
  const one = (each: unknown) => Object.fromEntries(Object.entries(each as object).filter(([name]) => want(name)));
  return Array.isArray(value) ? value.map(one) : one(value);
}
