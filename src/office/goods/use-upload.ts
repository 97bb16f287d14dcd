import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { upload } from '../upload';

export interface Uploading {
  readonly name: string;
  readonly done: number;
  readonly all: number;
}

/** Files one after another, with how far each is and a way to stop. Leaving the sheet stops it too. */
export function useUpload<T>(pathOf: (file: File) => string, onKept: (kept: T, file: File) => void) {
  const [now, setNow] = useState<Uploading | null>(null);
  const stopper = useRef<AbortController | null>(null);
  useEffect(() => () => stopper.current?.abort(), []);
  const take = (files: readonly File[]) => whileUploading(takeAll(files));
  const takeAll = async (files: readonly File[]) => {
    const control = new AbortController();
    stopper.current = control;
    for (const file of files) {
      if (control.signal.aborted) break;
      setNow({ name: file.name, done: 0, all: file.size });
      await upload<T>(
        pathOf(file),
        file,
        (done) => setNow({ name: file.name, done, all: file.size }),
        control.signal,
      ).then(
        (kept) => onKept(kept, file),
        (e: Error) => toast.error(`${file.name}: ${e.message}`, { duration: 9000 }),
      );
    }
    setNow(null);
  };
  return { now, take, stop: () => stopper.current?.abort() };
}

let underWay = 0;
const listeners = new Set<() => void>();
const say = (): void => {
  for (const hear of listeners) hear();
};

/** Says of an upload, until it has ended, that it is under way. */
export async function whileUploading<T>(work: Promise<T>): Promise<T> {
  underWay++;
  say();
  try {
    return await work;
  } finally {
    underWay--;
    say();
  }
}

/** Whether a file or a picture is on its way to the server: what is saved meanwhile would lack it. */
export const useUploading = (): boolean =>
  useSyncExternalStore(
    (hear) => {
      listeners.add(hear);
      return () => listeners.delete(hear);
    },
    () => underWay > 0,
  );
