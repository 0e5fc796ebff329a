import { startCaliper } from './caliper.mjs';
import { startReceiver } from './receiver.mjs';

/** Where the simulated receiver stands: in the middle of the demo bush, whose hill lies in open ocean. */
const IN_THE_DEMO_BUSH = { lat: 46.5012, lon: -39.9985 };

/**
 * Starts the simulated devices that come with the project.
 * @param {(wished: number) => Promise<number>} freePort
 */
export async function startStandins(freePort) {
  const caliper = await startCaliper(await freePort(4781));
  const receiver = await startReceiver(await freePort(4782), IN_THE_DEMO_BUSH);
  return {
    devices: [
      { kind: 'caliper', name: 'simulated caliper', url: caliper.url },
      { kind: 'receiver', name: 'simulated receiver', url: receiver.url }
    ],
    async stop() {
      await caliper.stop();
      await receiver.stop();
    }
  };
}
