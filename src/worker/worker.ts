import * as Comlink from 'comlink';
import { setUnpacker, toFailure } from '@/core';
import { Engine } from './tab/engine';
import { remoteUnpacker } from './tab/unpackRemote';

/** Failures cross the border as plain data: an Error would lose everything but its message. */
function guarded(engine: Engine): Engine {
  return new Proxy(engine, {
    get(of, name) {
      const value = (of as unknown as Record<string | symbol, unknown>)[name];
      if (typeof value !== 'function') return value;
      return async (...values: unknown[]): Promise<unknown> => {
        try {
          return await (value as (...all: unknown[]) => Promise<unknown>).apply(of, values);
        } catch (error) {
          // eslint-disable-next-line @typescript-eslint/only-throw-error -- plain data is what can cross
          throw { failure: toFailure(error) };
        }
      };
    },
  });
}

setUnpacker(remoteUnpacker);
Comlink.expose(guarded(new Engine()));
