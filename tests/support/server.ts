import { bridge } from '@/bridge/serve';
import { KEY_HEADER } from '@/bridge/wire';

const HOST = '127.0.0.1:4640';

/**
 * The requests of the app's own page, answered by its server without a network between.
 *
 * @param key that the page knows
 */
export const askServer =
  (key: string) =>
  (address: string, options: RequestInit = {}): Promise<Response> => {
    const headers = new Headers(options.headers);
    for (const [name, value] of Object.entries({ host: HOST, origin: `http://${HOST}`, [KEY_HEADER]: key }))
      headers.set(name, value);
    const size =
      options.body instanceof Blob
        ? options.body.size
        : options.body instanceof Uint8Array
          ? options.body.length
          : undefined;
    if (size !== undefined && !headers.has('content-length')) headers.set('content-length', String(size));
    return bridge(new Request(`http://${HOST}${address}`, { ...options, headers }));
  };
