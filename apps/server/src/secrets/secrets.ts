import {
  createCipheriv,
  createDecipheriv,
  createHash,
  createHmac,
  createPrivateKey,
  createPublicKey,
  hkdfSync,
  randomBytes,
  sign,
  timingSafeEqual,
  type KeyObject,
} from 'node:crypto';
import { atOnce } from '@underpass/core';

/** What stands before the 32 bytes of a private key of Ed25519 in PKCS #8 [RFC 8410 section 7]. */
const ed25519 = Buffer.from('302e020100300506032b657004220420', 'hex');

/** Seals and signs with keys of their own, all made from the one secret the server is started with. */
export class Secrets {
  private readonly sealing: Buffer;
  private readonly signing: Buffer;
  private readonly nonces: Buffer;
  private readonly published: KeyObject;

  constructor(secretKey: string) {
    const key = (purpose: string) => Buffer.from(hkdfSync('sha256', secretKey, 'underpass', purpose, 32));
    this.sealing = key('seal');
    this.signing = key('sign');
    this.nonces = key('nonce of what is sealed alike');
    this.published = createPrivateKey({ key: Buffer.concat([ed25519, key('published files')]), format: 'der', type: 'pkcs8' });
  }

  /** AES-256-GCM with a nonce of its own [NIST SP 800-38D]. */
  seal(text: string): string {
    return this.sealBytes(Buffer.from(text)).toString('base64url');
  }

  /**
   * The same, but a text is always sealed to the same, so that it can be told whether two are alike without opening them: the nonce is
   * a keyed sum of the text, as in synthetic-nonce encryption [RFC 5297 section 1.3.3]. It shows that they are alike, and nothing else.
   */
  sealAlike(text: string): string {
    const nonce = createHmac('sha256', this.nonces).update(text).digest().subarray(0, 12);
    return this.sealBytes(Buffer.from(text), nonce).toString('base64url');
  }

  sealBytes(bytes: Uint8Array, nonce: Uint8Array = randomBytes(12)): Buffer {
    return atOnce(this.sealingBytes(bytes, nonce));
  }

  /** Seals in steps, so that whoever waits can be served between them. */
  *sealingBytes(bytes: Uint8Array, nonce: Uint8Array = randomBytes(12)): Generator<void, Buffer> {
    const cipher = createCipheriv('aes-256-gcm', this.sealing, nonce);
    const parts: Uint8Array[] = [];
    for (const part of partsOf(bytes)) {
      parts.push(cipher.update(part));
      yield;
    }
    parts.push(cipher.final());
    return yield* joining([nonce, cipher.getAuthTag(), ...parts]);
  }

  /** What was sealed; null where it was not sealed with this key, or was changed. */
  open(sealed: string): string | null {
    return this.openBytes(Buffer.from(sealed, 'base64url'))?.toString('utf8') ?? null;
  }

  openBytes(bytes: Uint8Array): Buffer | null {
    return atOnce(this.openingBytes(bytes));
  }

  /** Opens in steps; null as `open` has it, and only at the end: nothing of what is not whole is told. */
  *openingBytes(bytes: Uint8Array): Generator<void, Buffer | null> {
    try {
      const decipher = createDecipheriv('aes-256-gcm', this.sealing, bytes.subarray(0, 12), { authTagLength: 16 });
      decipher.setAuthTag(bytes.subarray(12, 28));
      const parts: Uint8Array[] = [];
      for (const part of partsOf(bytes.subarray(28))) {
        parts.push(decipher.update(part));
        yield;
      }
      parts.push(decipher.final());
      return yield* joining(parts);
    } catch {
      return null;
    }
  }

  /** Signs what is published, so that devices know it for ours: Ed25519 [RFC 8032]. */
  signPublished(text: string): Buffer {
    return sign(null, Buffer.from(text), this.published);
  }
  /** What devices hold that against, in PEM. */
  get publishedKey(): string {
    return createPublicKey(this.published).export({ format: 'pem', type: 'spki' }).toString();
  }

  sign(text: string): string {
    return createHmac('sha256', this.signing).update(text).digest('base64url');
  }
  signed(text: string, signature: string): boolean {
    return equal(this.sign(text), signature);
  }
}

/** Compared in a time that tells nothing about where they differ. */
export const equal = (a: string, b: string): boolean => {
  const digest = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
};

/** So much is sealed or opened in one step: some milliseconds. */
const stepBytes = 2 ** 21;

function* partsOf(bytes: Uint8Array): Generator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += stepBytes) yield bytes.subarray(at, at + stepBytes);
}

/** Parts as one, in steps. */
function* joining(parts: readonly Uint8Array[]): Generator<void, Buffer> {
  const whole = Buffer.allocUnsafe(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
    yield;
  }
  return whole;
}
