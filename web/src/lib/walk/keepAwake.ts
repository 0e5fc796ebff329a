/**
 * Keeps the screen on while a round is walked, where the device can; a screen that was left is kept on again when it is come back to.
 * @returns ends it
 */
export function keepAwake(): () => void {
  let lock: WakeLockSentinel | null = null;
  let ended = false;
  const ask = async () => {
    if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    // Refused where the battery is low: the walk goes on without it.
    const got = await navigator.wakeLock.request('screen').catch(() => null);
    if (ended) void got?.release();
    else lock = got;
  };
  void ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    ended = true;
    document.removeEventListener('visibilitychange', ask);
    void lock?.release();
  };
}
