import { ReadBack, type ReadBackResult } from '@underpass/core';
import { useRef, useState } from 'react';
import { megabytes } from '../words.js';

/** Read at a time, so small that typing goes on meanwhile. */
const pieceBytes = 1024 * 1024;

/** A file that was read back from a card, held against the image in this browser; nothing of it is sent. */
export function CardReadBack() {
  const [image, setImage] = useState<File | null>(null);
  const [card, setCard] = useState<File | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const [result, setResult] = useState<ReadBackResult | string | null>(null);
  const stopped = useRef(false);
  const hold = async (ofImage: File, ofCard: File) => {
    stopped.current = false;
    setResult(null);
    setAt(0);
    const back = new ReadBack();
    const piece = async (file: File, from: number) => new Uint8Array(await file.slice(from, from + pieceBytes).arrayBuffer());
    try {
      for (let from = 0; from < ofImage.size; from += pieceBytes) {
        if (stopped.current) return;
        back.addImage(await piece(ofImage, from));
        if (from < ofCard.size) back.addCard(await piece(ofCard, from));
        else back.endCard();
        setAt(Math.min(ofImage.size, from + pieceBytes));
      }
      setResult(back.end());
    } catch {
      setResult('One of the files cannot be read any more. Choose it again.');
    } finally {
      setAt(null);
    }
  };
  return (
    <section aria-labelledby="read-back" className="mt-8 max-w-[760px]">
      <h2 id="read-back">Check a card that was written</h2>
      <p className="text-ink-2">Choose the image, and what was read back from the card. Both stay in this browser.</p>
      <p className="mt-2 flex flex-wrap gap-3 items-center">
        <Choose label="Image" file={image} onChoose={setImage} />
        <Choose label="Read back" file={card} onChoose={setCard} />
        <button className="btn" disabled={!image || !card || at !== null} onClick={() => image && card && void hold(image, card)}>
          Hold them against each other
        </button>
        {at !== null && (
          <button className="link min-h-[24px]" onClick={() => (stopped.current = true)}>
            Stop
          </button>
        )}
      </p>
      <div role="status" className="mt-2">
        {at !== null && image && `${megabytes(at / 1e6)} of ${megabytes(image.size / 1e6)}`}
        {typeof result === 'string' && <p className="text-brick">{result}</p>}
        {result && typeof result !== 'string' && (
          <>
            <p className={result.same ? '' : 'text-brick font-semibold'}>
              {result.same
                ? `The card holds the image: all ${result.bytes} bytes are the same.`
                : `The card does not hold the image: byte ${result.firstOtherAt} is another. Write it again, or take another card.`}
            </p>
            <p className="mono text-[12.5px] text-ink-2 [overflow-wrap:anywhere]">SHA-256 {result.imageSha256}</p>
          </>
        )}
      </div>
    </section>
  );
}

function Choose({ label, file, onChoose }: { label: string; file: File | null; onChoose: (file: File) => void }) {
  return (
    <label className="btn btn-small focus-within:outline-2">
      {file ? `${label}: ${file.name}` : label}
      <input
        type="file"
        className="sr-only"
        aria-label={`${label}: a file`}
        onChange={({ target }) => {
          const [chosen] = target.files ?? [];
          if (chosen) onChoose(chosen);
        }}
      />
    </label>
  );
}
