import { Problem } from './api';
import { upload as say } from './words/frame';

/**
 * Sends one large file, telling how far it is; `fetch` cannot tell that of what it sends. Stopped by its signal.
 * @throws Problem
 */
export function upload<T>(
  path: string,
  file: File,
  onProgress: (done: number) => void,
  signal: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const stop = () => request.abort();
    request.open('POST', path);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.addEventListener('progress', (e) => onProgress(e.loaded));
    request.addEventListener('load', () => {
      signal.removeEventListener('abort', stop);
      let answer: (T & { title?: string }) | undefined;
      try {
        answer = JSON.parse(request.responseText) as T & { title?: string };
      } catch {
        // Answered by something between here and the office.
      }
      if (request.status >= 200 && request.status < 300 && answer) resolve(answer);
      else reject(new Problem(answer?.title ?? say.theFileDidNotArriveWhole, request.status));
    });
    request.addEventListener('error', () => reject(new Problem(say.theConnectionBrokeOffNothingOf, 0)));
    request.addEventListener('abort', () => reject(new Problem(say.stoppedNothingOfTheFileWas, 0)));
    signal.addEventListener('abort', stop);
    request.send(file);
  });
}
