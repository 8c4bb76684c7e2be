/** Asks hosts gently: each a few times at most, and not before it wants to be asked again. */
import type { KyInstance } from 'ky';
import { fetchErrorCode } from './why.ts';

/** Tries after the first, and milliseconds to wait between them at most, whatever the host asks for. */
const TRIES = 2;
const LONGEST_WAIT = 20_000;
/** Statuses of hosts that may say more a little later, perhaps saying when. */
export const BUSY = [429, 503];
const LASTING: ReadonlySet<string> = new Set(['ENOTFOUND', 'EAI_AGAIN', 'ECONNREFUSED']);

/**
 * Gives clients that try again for some statuses. `over` ends all of them; `wholeTime` is how many milliseconds are left
 * until then, `time` how many one request may take.
 */
export async function politeClient(
  over: AbortSignal,
  wholeTime: number,
  time: number,
): Promise<(statusCodes: number[]) => KyInstance> {
  const { default: ky } = await import('ky');
  const end = performance.now() + wholeTime;
  const mayWait = () => Math.min(LONGEST_WAIT, end - performance.now());
  return (statusCodes) =>
    ky.create({
      signal: over,
      headers: { 'user-agent': 'cravel', accept: '*/*' },
      redirect: 'manual',
      timeout: time,
      retry: {
        limit: TRIES,
        methods: ['get', 'head'],
        statusCodes,
        afterStatusCodes: BUSY,
        backoffLimit: LONGEST_WAIT,
        retryOnTimeout: true,
        // A host that there is not will not be there in a second, and who asks for a long time is not waited for.
        shouldRetry: ({ error }) =>
          over.aborted || LASTING.has(fetchErrorCode(error)) || waitAsked(error) > mayWait()
            ? false
            : undefined,
      },
    });
}

/** Milliseconds that a host asks to be left alone for (RFC 9110, 10.2.3); 0 where it does not say. */
function waitAsked(error: unknown): number {
  const { response } = error as { response?: Response };
  const written = response?.headers.get('retry-after') ?? null;
  if (written === null) return 0;
  const seconds = Number(written);
  return Number.isNaN(seconds) ? Date.parse(written) - Date.now() || 0 : seconds * 1000;
}

/** The response, be its status an error or a redirect. */
export async function statusOf(request: Promise<Response>): Promise<Response> {
  try {
    return await request;
  } catch (error) {
    if (error instanceof Error && 'response' in error) return error.response as Response;
    throw error;
  }
}
