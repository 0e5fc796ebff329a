import { meanFix, phoneFix, type Fix } from '@baumkin/core/geometry';

import { fixOf } from './nmea.ts';
import { listenTo, offeredDevices, type Device } from './wire.ts';

/** The mean of what a receiver says while the steward stands still: this device's own, or one on a wire. */
export class Receiver {
  offered = $state.raw<readonly Device[]>([]);
  source = $state<'phone' | 'wire' | null>(null);
  name = $state('');
  problem = $state<string | null>(null);
  #fixes = $state.raw<readonly Fix[]>([]);
  readonly mean = $derived(meanFix(this.#fixes));
  #end: (() => void) | null = null;

  /** Asks which receivers are on a wire here. */
  async find(): Promise<void> {
    this.offered = (await offeredDevices()).filter((device) => device.kind === 'receiver');
  }

  /** Listens to a receiver that sends NMEA 0183 sentences. */
  listen(device: Device): void {
    this.#begin('wire', device.name);
    this.#end = listenTo(
      device,
      (line) => this.#take(fixOf(line)),
      (problem) => (this.problem = problem)
    );
  }

  /** Asks this device where it is. */
  ownPhone(): void {
    this.#begin('phone', 'this device');
    if (!('geolocation' in navigator)) {
      this.problem = 'This device does not tell where it is.';
      return;
    }
    const watch = navigator.geolocation.watchPosition(
      ({ coords }) => this.#take(phoneFix(coords)),
      () => (this.problem = 'This device may not, or cannot, tell where it is.'),
      { enableHighAccuracy: true }
    );
    this.#end = () => navigator.geolocation.clearWatch(watch);
  }

  stop(): void {
    this.#end?.();
    this.#end = null;
    this.source = null;
  }

  #begin(source: 'phone' | 'wire', name: string): void {
    this.stop();
    this.source = source;
    this.name = name;
    this.problem = null;
    this.#fixes = [];
  }

  #take(fix: Fix | null): void {
    if (!fix) return;
    this.problem = null;
    this.#fixes = [...this.#fixes, fix].slice(-300);
  }
}
