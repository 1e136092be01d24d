// Sending a file in pieces (tus): a connection that breaks off goes on where it was, also after
// the page was closed.
import { DetailedError, Upload } from "tus-js-client";
import { saidBy } from "@/api/client";
import { text } from "@/text";

const ENDPOINT = "/api/library/arriving";
const PIECE = 8 * 2 ** 20;
const WAITS = [0, 500, 1000, 2000, 5000, 10_000, 20_000, 30_000, 30_000, 60_000]; // ms before each new try
const LATER = [409, 423, 429, 503]; // the studio is busy, or has more of it than was thought

export interface Sending {
  /** The id under which the studio has all of it, or null where it was stopped. Throws what is wrong. */
  readonly arrived: Promise<string | null>;
  /** No more of it: the studio forgets what has come. */
  stop: () => void;
}

export function sendInPieces(file: File, tell: (share: number, waiting: boolean) => void): Sending {
  let stop = () => {};
  let share = 0;
  const arrived = new Promise<string | null>((resolve, reject) => {
    const upload = new Upload(file, {
      endpoint: ENDPOINT,
      chunkSize: PIECE,
      retryDelays: WAITS,
      removeFingerprintOnSuccess: true,
      metadata: { filename: file.name },
      onProgress: (sent, all) => {
        share = all ? sent / all : 0;
        tell(share, false);
      },
      onShouldRetry: (error) => {
        const again = isLater(error);
        if (again) tell(share, true);
        return again;
      },
      onSuccess: () => resolve(upload.url?.split("/").at(-1) ?? null),
      onError: (error) => reject(new Error(saidOf(error))),
    });
    stop = () => {
      void upload.abort(true).catch(() => undefined);
      resolve(null);
    };
    void upload.findPreviousUploads().then((earlier) => {
      if (earlier[0]) upload.resumeFromPreviousUpload(earlier[0]);
      upload.start();
    });
  });
  return { arrived, stop: () => stop() };
}

function isLater(error: Error): boolean {
  const status = error instanceof DetailedError ? (error.originalResponse?.getStatus() ?? 0) : 0;
  return status === 0 || LATER.includes(status);
}

function saidOf(error: Error): string {
  const body = error instanceof DetailedError ? error.originalResponse?.getBody() : "";
  if (!body) return text.error.network;
  try {
    return saidBy(JSON.parse(body));
  } catch {
    return body.slice(0, 200);
  }
}
