import { wire } from './wire.mjs';

/** Error of a single fix in an open wood with no better signals, metres. Working assumption. */
const FIX_SD_M = 3;
const METRES_TO_DEGREE = 111_150;

/**
 * A simulated satellite receiver: NMEA 0183 sentences (GGA) once a second, scattered around where it stands.
 * @param {number} port
 * @param {{ lat: number, lon: number }} place
 */
export async function startReceiver(port, place) {
  let { lat, lon } = place;
  const device = await wire({
    port,
    page: PAGE,
    told(path, body) {
      if (path !== '/stand') throw new Error('It can be told where to stand: /stand.');
      const [newLat, newLon] = [Number(body.lat), Number(body.lon)];
      if (!(Math.abs(newLat) <= 89 && Math.abs(newLon) <= 180)) throw new Error('That is no place on earth.');
      [lat, lon] = [newLat, newLon];
    }
  });
  // The scatter of satellites is slow: it swings to and fro more than it jumps.
  let step = 0;
  const timer = setInterval(() => {
    step += 1;
    const swing = (/** @type {number} */ period, /** @type {number} */ phase) =>
      (FIX_SD_M * Math.SQRT2 * Math.sin((2 * Math.PI * step) / period + phase)) / METRES_TO_DEGREE;
    device.send(gga(lat + swing(23, 0.4), lon + swing(31, 1.7) / Math.cos((lat * Math.PI) / 180), new Date()));
  }, 1000);
  return {
    url: device.url,
    async stop() {
      clearInterval(timer);
      await device.stop();
    }
  };
}

/** @param {number} lat @param {number} lon @param {Date} at */
export function gga(lat, lon, at) {
  const angle = (/** @type {number} */ value, /** @type {number} */ digits) => {
    const degrees = Math.floor(Math.abs(value));
    const minutes = (Math.abs(value) - degrees) * 60;
    return `${String(degrees).padStart(digits, '0')}${minutes.toFixed(5).padStart(8, '0')}`;
  };
  const time = at.toISOString().slice(11, 19).replaceAll(':', '');
  const body = `GPGGA,${time}.00,${angle(lat, 2)},${lat < 0 ? 'S' : 'N'},${angle(lon, 3)},${lon < 0 ? 'W' : 'E'},1,08,1.0,210.0,M,20.0,M,,`;
  const sum = [...body].reduce((x, sign) => x ^ sign.charCodeAt(0), 0);
  return `$${body}*${sum.toString(16).toUpperCase().padStart(2, '0')}`;
}

const PAGE = `<!doctype html><html lang="en"><meta charset="utf-8"><title>Simulated receiver</title>
<style>body{font:1.1rem sans-serif;max-width:30rem;margin:3rem auto}input,button{font:inherit;padding:.5rem}</style>
<h1>Simulated receiver</h1><p>Stands in for a satellite receiver that sends NMEA 0183 sentences.</p>
<form><label>Latitude <input name="lat" value="46.5008"></label> <label>Longitude <input name="lon" value="-39.9992"></label> <button>Stand there</button></form>
<script>document.querySelector('form').onsubmit = async (event) => { event.preventDefault();
const form = new FormData(event.target);
await fetch('/stand', { method: 'POST', body: JSON.stringify({ lat: Number(form.get('lat')), lon: Number(form.get('lon')) }) }); };</script>`;
