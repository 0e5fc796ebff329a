import { receiverFix, type Fix } from '@baumkin/core/geometry';
import { parseNmeaSentence } from 'nmea-simple';

/** The fix in an NMEA 0183 sentence; null for other sentences, broken ones and a receiver that sees no satellites. */
export function fixOf(sentence: string): Fix | null {
  try {
    const packet = parseNmeaSentence(sentence);
    if (packet.sentenceId !== 'GGA' || packet.fixType === 'none') return null;
    const { latitude: lat, longitude: lon, horizontalDilution } = packet;
    if (!Number.isFinite(lat) || !Number.isFinite(lon)) return null;
    return receiverFix({ lat, lon, hdop: horizontalDilution });
  } catch {
    return null;
  }
}
