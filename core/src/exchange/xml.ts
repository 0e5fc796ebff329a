import { SaxesParser } from 'saxes';

import { UnreadableFile } from './statement.ts';

/** Deeper nesting than this is no file of places. */
const DEEPEST = 40;

/** Reads XML that anybody may have written, element by element: no document type, whose entities could grow without end, and no depth without end. */
export class CarefulXml {
  readonly #parser = new SaxesParser({ xmlns: false });
  #content = '';
  /** elements that are open, the one that is told of included */
  depth = 0;

  /**
   * @param told what is done with each element as it begins, and as it ends, with the text that stood in it last, and with each piece of text
   * @param what the file is taken to be, as errors say it
   */
  constructor(
    told: {
      readonly begins: (name: string, attributes: Readonly<Record<string, string>>) => void;
      readonly ends: (name: string, content: string) => void;
      readonly says?: (text: string) => void;
    },
    what: string
  ) {
    const parser = this.#parser;
    parser.on('doctype', () => {
      throw new UnreadableFile(
        `This file brings a document type of its own, which ${what} does not need. Save it again without one.`
      );
    });
    parser.on('error', (error) => {
      throw new UnreadableFile(`This is not well-formed XML: ${error.message.slice(0, 120)}.`);
    });
    parser.on('opentag', ({ name, attributes }) => {
      this.depth += 1;
      if (this.depth > DEEPEST) throw new UnreadableFile(`This file is nested too deeply to be ${what}.`);
      this.#content = '';
      told.begins(name, attributes as Record<string, string>);
    });
    parser.on('text', (part) => {
      told.says?.(part);
      if (this.#content.length < MOST_TEXT) this.#content += part.slice(0, MOST_TEXT);
    });
    parser.on('closetag', ({ name }) => {
      told.ends(name, this.#content.trim());
      this.depth -= 1;
    });
  }

  /** @throws UnreadableFile */
  read(text: string): void {
    this.#parser.write(text.replace(/^\uFEFF/, '')).close();
  }
}

/** What stands in an element is read so far, signs. */
const MOST_TEXT = 500;
