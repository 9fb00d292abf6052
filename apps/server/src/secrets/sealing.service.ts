import { Inject, Injectable } from '@nestjs/common';
import { objectKinds, sealedMark, secretFields, type ObjectKind } from '@underpass/contracts';
import { CONFIG, type Config } from '../config.js';
import { inSlices } from '../jobs/slices.js';
import { Secrets } from './secrets.js';

/** Fields of any kind of object that hold a secret, each as the object it is in and its own name. */
const fields = [...new Set(objectKinds.flatMap((kind) => secretFields[kind]))].map((path) => {
  const [inside, name] = path.split('.') as [string, string];
  return { path, inside, name };
});

/**
 * Seals what objects hold as a secret before it is kept, told or worked with: all behind the edge knows it sealed alone. The same secret
 * is sealed to the same text, so that a device can be held against its place without opening either.
 */
@Injectable()
export class Sealing {
  private readonly secrets: Secrets;

  constructor(@Inject(CONFIG) config: Config) {
    this.secrets = new Secrets(config.secretKey);
  }

  /** The same value with every secret in it sealed, however deep: objects, changes, drafts. What has none comes back as it is. */
  sealed<T>(value: T): T {
    return this.walked(value) as T;
  }

  /** The same for objects of a kind, of which there may be many: only its own fields are looked at. */
  sealedOfKind<T extends object>(kind: ObjectKind, objects: readonly T[]): T[] {
    const has = secretFields[kind].map((path) => path.split('.')[0] as string);
    return objects.map((object) =>
      has.some((key) => (object as Record<string, unknown>)[key] !== undefined) ? this.sealed(object) : object,
    );
  }

  /** What was sealed; null where it was sealed elsewhere. */
  opened(sealed: string): string | null {
    return sealed.startsWith(sealedMark) ? this.secrets.open(sealed.slice(sealedMark.length)) : sealed;
  }

  /** What somebody sends and is kept until it is worked off; it may be large. */
  sealedBytes = (bytes: Uint8Array): Promise<Buffer> => inSlices(this.secrets.sealingBytes(bytes));
  openedBytes = (bytes: Uint8Array): Promise<Buffer | null> => inSlices(this.secrets.openingBytes(bytes));

  /** The signature of what devices fetch, and the key they hold it against. */
  signature = (text: string): Buffer => this.secrets.signPublished(text);
  get publishedKey(): string {
    return this.secrets.publishedKey;
  }

  private walked(value: unknown): unknown {
    if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return value;
    if (Array.isArray(value)) {
      const list = value.map((each) => this.walked(each));
      return list.some((each, i) => each !== value[i]) ? list : value;
    }
    let next = value as Record<string, unknown>;
    const put = (key: string, to: unknown) => {
      if (to !== next[key]) next = { ...next, [key]: to };
    };
    for (const [key, each] of Object.entries(value)) {
      const whole = fields.some(({ path }) => path === key);
      put(key, whole ? this.sealOne(each) : this.walked(each));
    }
    for (const { inside, name } of fields) {
      const within = next[inside];
      if (typeof within !== 'object' || within === null || !Object.hasOwn(within, name)) continue;
      const at = (within as Record<string, unknown>)[name];
      const to = this.sealOne(at);
      if (to !== at) put(inside, { ...within, [name]: to });
    }
    return next;
  }

  /** One that is too long to be any is left as it is, so that this is told. */
  private sealOne(secret: unknown): unknown {
    if (typeof secret !== 'string' || secret === '' || secret.length > 63 || secret.startsWith(sealedMark)) return secret;
    return `${sealedMark}${this.secrets.sealAlike(secret)}`;
  }
}
