/** What the program keeps on this device. */
export interface DeviceSpace {
  readonly megabytes: number;
  /** the browser does not clear it away where room runs short */
  readonly kept: boolean;
}

/** How much is kept on this device; null where the browser does not say. */
export async function deviceSpace(): Promise<DeviceSpace | null> {
  const { storage } = navigator;
  const { usage } = (await storage?.estimate?.()) ?? {};
  if (usage === undefined) return null;
  return { megabytes: usage / 1e6, kept: await storage.persisted() };
}

/** Asks the browser not to clear away what is kept on this device, where it can be asked. */
export async function keepForGood(): Promise<void> {
  await navigator.storage?.persist?.();
}
