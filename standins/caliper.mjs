import { wire } from './wire.mjs';

/**
 * A simulated caliper or girth tape. Pressing its button sends one line, as a person would write the reading:
 * `diameter 36.5 cm` or `girth 115.0 cm`.
 * @param {number} port
 */
export async function startCaliper(port) {
  const device = await wire({
    port,
    page: PAGE,
    told(path, { quantity = 'diameter', mm }) {
      if (path !== '/press') throw new Error('It only has one button: /press.');
      if (quantity !== 'diameter' && quantity !== 'girth') throw new Error('It measures diameter or girth.');
      const size = Number(mm);
      if (!(size > 0 && size < 6000)) throw new Error('Its jaws do not open that wide.');
      device.send(`${quantity} ${(size / 10).toFixed(1)} cm`);
    }
  });
  return device;
}

const PAGE = `<!doctype html><html lang="en"><meta charset="utf-8"><title>Simulated caliper</title>
<style>body{font:1.1rem sans-serif;max-width:30rem;margin:3rem auto}input,select,button{font:inherit;padding:.5rem}</style>
<h1>Simulated caliper</h1><p>Stands in for a caliper or tape that sends its readings. Listen to it on the Measure sheet.</p>
<form><select name="quantity" aria-label="Quantity"><option>diameter</option><option>girth</option></select>
<label>mm <input name="mm" type="number" min="1" max="5999" value="365" required></label> <button>Press</button></form>
<script>document.querySelector('form').onsubmit = async (event) => { event.preventDefault();
const form = new FormData(event.target);
await fetch('/press', { method: 'POST', body: JSON.stringify({ quantity: form.get('quantity'), mm: Number(form.get('mm')) }) }); };</script>`;
