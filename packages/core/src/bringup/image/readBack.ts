import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** What reading a card back came to. */
export interface ReadBackResult {
  /** Bytes of the image. */
  bytes: number;
  imageSha256: string;
  /** Sum of as much of the card as the image has. */
  cardSha256: string;
  same: boolean;
  /** The first byte that is another, or that the card does not have; null where none is. */
  firstOtherAt: number | null;
}

/**
 * Holds a card that was written against its image, piece by piece [FIPS 180-4 for the sums]. What the card has behind the image does not count: it is
 * larger. The pieces of both may be cut differently.
 */
export class ReadBack {
  private readonly ofImage = sha256.create();
  private readonly ofCard = sha256.create();
  private image: Uint8Array[] = [];
  private card: Uint8Array[] = [];
  private compared = 0;
  private imageBytes = 0;
  private other: number | null = null;
  private cardEnded = false;

  /** The next piece of the image. */
  addImage(piece: Uint8Array): void {
    this.ofImage.update(piece);
    this.imageBytes += piece.length;
    if (this.cardEnded) return this.missing();
    this.image.push(piece);
    this.compare();
  }

  /** The next piece of the card. */
  addCard(piece: Uint8Array): void {
    this.card.push(piece);
    this.compare();
  }

  /** The card has no more: what comes of the image is not waited with, however much it is. */
  endCard(): void {
    this.cardEnded = true;
    if (this.image.some(({ length }) => length > 0)) this.missing();
  }

  private missing(): void {
    this.other ??= this.compared;
    this.image = [];
  }

  private compare(): void {
    while (this.image[0] && this.card[0]) {
      const [a, b] = [this.image[0], this.card[0]];
      const length = Math.min(a.length, b.length);
      this.ofCard.update(b.subarray(0, length));
      if (this.other === null) {
        let at = 0;
        while (at < length && a[at] === b[at]) at++;
        if (at < length) this.other = this.compared + at;
      }
      this.compared += length;
      this.image = length === a.length ? this.image.slice(1) : [a.subarray(length), ...this.image.slice(1)];
      this.card = length === b.length ? this.card.slice(1) : [b.subarray(length), ...this.card.slice(1)];
    }
  }

  /** After the last piece of both. */
  end(): ReadBackResult {
    if (this.image.some(({ length }) => length > 0)) this.other ??= this.compared;
    return {
      bytes: this.imageBytes,
      imageSha256: bytesToHex(this.ofImage.digest()),
      cardSha256: bytesToHex(this.ofCard.digest()),
      same: this.other === null,
      firstOtherAt: this.other,
    };
  }
}
