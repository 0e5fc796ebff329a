import { UnreadableFile, WORKBOOK_PARTS } from '@baumkin/core/exchange';
import { Unzip, UnzipInflate } from 'fflate';

/** Parts of a workbook may come to so many bytes unpacked, and to so many times what they are packed. */
const MOST_BYTES = 80_000_000;
const MOST_TIMES = 150;
/** A file is unpacked piece by piece, so that one that grows without end is seen early. */
const PIECE = 65_536;

/** Is a file packed, as workbooks are? */
export const isPacked = (beginning: Uint8Array): boolean =>
  beginning[0] === 0x50 && beginning[1] === 0x4b && beginning[2] === 3 && beginning[3] === 4;
/** Is it a workbook of the binary kind that was usual until 2007? */
export const isOldWorkbook = (beginning: Uint8Array): boolean =>
  [0xd0, 0xcf, 0x11, 0xe0].every((byte, i) => beginning[i] === byte);

/** The XML of a packed workbook, part by part. @throws UnreadableFile where it is damaged, or unpacks to more than it may */
export function unpackWorkbook(bytes: Uint8Array): Map<string, string> {
  const parts = new Map<string, string>();
  let unpacked = 0;
  const unzip = new Unzip((file) => {
    if (!WORKBOOK_PARTS.test(file.name)) return;
    const decoder = new TextDecoder();
    let text = '';
    file.ondata = (error, data, final) => {
      if (error) throw error;
      unpacked += data.length;
      if (unpacked > MOST_BYTES || unpacked > MOST_TIMES * bytes.length + PIECE)
        throw new UnreadableFile(
          'This spreadsheet unpacks to far more than one of trees holds. Save it as CSV and try again.'
        );
      text += decoder.decode(data, { stream: !final });
      if (final) parts.set(file.name, text);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let i = 0; i < bytes.length; i += PIECE) unzip.push(bytes.subarray(i, i + PIECE), i + PIECE >= bytes.length);
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw new UnreadableFile('This spreadsheet is damaged: it cannot be unpacked.');
  }
  return parts;
}
