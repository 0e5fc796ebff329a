import { api, asked } from '../client/api.ts';

/** A device that sends lines of text: a caliper, a tape, a satellite receiver. */
export interface Device {
  readonly kind: 'caliper' | 'receiver';
  readonly name: string;
  /** WebSocket address on this machine */
  readonly url: string;
}

/** The devices that this server knows of; none where it cannot be asked. */
export async function offeredDevices(): Promise<readonly Device[]> {
  return (await asked(api.GET('/devices', {}))).data?.devices ?? [];
}

/**
 * Listens to a device until told to stop.
 * @returns stops listening
 */
export function listenTo(
  device: Device,
  online: (line: string) => void,
  onproblem: (problem: string) => void
): () => void {
  let stopped = false;
  const socket = new WebSocket(device.url);
  socket.onmessage = (event) => {
    if (typeof event.data === 'string')
      for (const line of event.data.split(/\r?\n/)) if (line !== '') online(line.slice(0, 200));
  };
  socket.onclose = () => {
    if (!stopped) onproblem(`The ${device.name} does not answer. Is it switched on?`);
  };
  return () => {
    stopped = true;
    socket.close();
  };
}
