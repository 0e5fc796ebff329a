import { startCaliper } from './caliper.mjs';
import { startReceiver } from './receiver.mjs';
import { startThermometer, startWeatherService } from './weather.mjs';

/** Where the simulated receiver stands: in the middle of the demo bush, whose hill lies in open ocean. */
const IN_THE_DEMO_BUSH = { lat: 46.5012, lon: -39.9985 };

const asSet = () => process.env.BAUMKIN_TODAY || new Date().toISOString().slice(0, 10);

/**
 * Starts the simulated devices and the simulated weather that come with the project.
 * @param {(wished: number) => Promise<number>} freePort
 * @param {() => string} today the day that the simulated weather is told for, ISO date
 */
export async function startStandins(freePort, today = asSet) {
  const caliper = await startCaliper(await freePort(4781));
  const receiver = await startReceiver(await freePort(4782), IN_THE_DEMO_BUSH);
  const service = await startWeatherService(await freePort(4783), today);
  const thermometer = await startThermometer(await freePort(4784), today);
  return {
    weather: [
      { kind: 'forecast', name: 'simulated weather service', url: service.url },
      { kind: 'thermometer', name: 'simulated thermometer', url: thermometer.url }
    ],
    devices: [
      { kind: 'caliper', name: 'simulated caliper', url: caliper.url },
      { kind: 'receiver', name: 'simulated receiver', url: receiver.url }
    ],
    async stop() {
      await caliper.stop();
      await receiver.stop();
      await service.stop();
      await thermometer.stop();
    }
  };
}
