import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes, timingSafeEqual } from 'node:crypto';

/** Seals and signs with keys of their own, all made from the one secret the server is started with. */
export class Secrets {
  private readonly sealing: Buffer;
  private readonly signing: Buffer;

  constructor(secretKey: string) {
    const key = (purpose: string) => Buffer.from(hkdfSync('sha256', secretKey, 'underpass', purpose, 32));
    this.sealing = key('seal');
    this.signing = key('sign');
  }

  /** AES-256-GCM with a nonce of its own [NIST SP 800-38D]. */
  seal(text: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.sealing, nonce);
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64url');
  }

  /** What was sealed; null where it was not sealed with this key, or was changed. */
  open(sealed: string): string | null {
    try {
      const bytes = Buffer.from(sealed, 'base64url');
      const decipher = createDecipheriv('aes-256-gcm', this.sealing, bytes.subarray(0, 12), { authTagLength: 16 });
      decipher.setAuthTag(bytes.subarray(12, 28));
      return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
    } catch {
      return null;
    }
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
