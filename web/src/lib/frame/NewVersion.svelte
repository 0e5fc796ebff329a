<script lang="ts">
  import { onMount } from 'svelte';

  /** Another version of the program is on this device: whoever writes something ends it first, then takes it. */
  let waiting = $state.raw<ServiceWorker | null>(null);
  const LOOK_EVERY_MS = 3_600_000;

  onMount(() => {
    // Only where the browser lets pages keep a program.
    const programs = (navigator as { serviceWorker?: ServiceWorkerContainer }).serviceWorker;
    if (!programs) return;
    let registration: ServiceWorkerRegistration | undefined;
    const look = () => (waiting = registration?.waiting ?? null);
    void programs.ready.then((ready) => {
      registration = ready;
      look();
      ready.addEventListener('updatefound', () => ready.installing?.addEventListener('statechange', look));
    });
    const timer = setInterval(() => void registration?.update().catch(() => undefined), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  });

  function take(): void {
    navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), { once: true });
    waiting?.postMessage('take');
  }
</script>

{#if waiting}
  <p class="bg-base-300 px-4 py-1.5 print:hidden" role="status">
    A new version of Baumkin is on this device. Finish what you are writing, then
    <button class="link font-semibold" onclick={take}>take it</button>.
  </p>
{/if}
