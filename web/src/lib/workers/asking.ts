import { UserFacingError } from '@baumkin/core/errors';
import { wrap, type Remote } from 'comlink';

const BROKE_OFF =
  'A part of the program could not be loaded, or broke off. What you wrote is kept. Open the page again; if that does not help, do it with a network.';

/**
 * What a worker can be asked. Where it cannot be loaded, or breaks off by a fault that it does not catch, whatever is asked is refused:
 * no answer would come, and whoever waits would wait for ever.
 * @param broke is told once
 */
export function asking<Api>(worker: Worker, broke: () => void = () => undefined): Remote<Api> {
  const broken = new Promise<never>((_, reject) => {
    worker.addEventListener('error', ({ message }) => {
      console.error('A worker broke off:', message);
      broke();
      reject(new UserFacingError('brokeOff', BROKE_OFF));
    });
  });
  broken.catch(() => undefined);
  return new Proxy(wrap<Api>(worker), {
    get(remote, name) {
      const found: unknown = Reflect.get(remote, name);
      if (typeof name === 'symbol' || name === 'then') return found;
      return (...asked: unknown[]) =>
        Promise.race([(found as (...asked: unknown[]) => Promise<unknown>)(...asked), broken]);
    }
  });
}
