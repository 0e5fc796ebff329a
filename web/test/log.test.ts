import { afterEach, describe, expect, it, vi } from 'vitest';

import { forRequest, log, notedQuery, notedRequest, requestId } from '../src/lib/server/log.ts';

describe('the log', () => {
  const warned = vi.spyOn(log, 'warn').mockImplementation(() => undefined);
  afterEach(() => warned.mockClear());

  it('tells of slow queries without the values in them, and of no others', () => {
    const sql = `SELECT * FROM sessions WHERE tokenHash = 'secret' AND name = 'O\\'Hara' AND number = 7`;
    notedQuery(sql, 499);
    expect(warned).not.toHaveBeenCalled();
    notedQuery(sql, 500);
    expect(warned).toHaveBeenCalledWith(
      { query: 'SELECT * FROM sessions WHERE tokenHash = ? AND name = ? AND number = ?', ms: 500 },
      'A slow query'
    );
  });

  it('tells of slow requests', () => {
    notedRequest('GET', '/api/v1/bushes', 1999);
    notedRequest('GET', '/api/v1/bushes', 2000.4);
    expect(warned.mock.calls).toEqual([[{ method: 'GET', path: '/api/v1/bushes', ms: 2000 }, 'A slow request']]);
  });

  it('knows whose request something happens for, also after a while', async () => {
    const later = (id: string) =>
      forRequest(id, async () => {
        await new Promise((resolve) => setTimeout(resolve, 5));
        return requestId();
      });
    expect(await Promise.all([later('a'), later('b')])).toEqual(['a', 'b']);
    expect(requestId()).toBeUndefined();
  });
});
