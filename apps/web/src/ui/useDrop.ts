import { useState, type DragEvent } from 'react';

/** A place where files are dropped: whether some are held over it, and what it listens to. */
export function useDrop(onTake: (files: FileList) => void) {
  const [over, setOver] = useState(false);
  return {
    over,
    listens: {
      onDragOver: (event: DragEvent) => {
        event.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop: (event: DragEvent) => {
        event.preventDefault();
        setOver(false);
        onTake(event.dataTransfer.files);
      },
    },
  };
}
