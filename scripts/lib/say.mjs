/** A problem that the person at the keyboard can do something about: printed without a stack. */
export class Trouble extends Error {}

/** @param {string} text */
export function say(text) {
  process.stdout.write(`${text}\n`);
}

/**
 * Runs a command's main function; a Trouble ends it with its message alone.
 * @param {() => Promise<void>} main
 */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    process.stderr.write(
      error instanceof Trouble ? `\n${error.message}\n` : `\n${/** @type {Error} */ (error).stack}\n`
    );
    process.exitCode = 1;
  }
}
