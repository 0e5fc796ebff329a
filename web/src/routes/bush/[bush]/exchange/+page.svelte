<script lang="ts">
  import ImportFiles from '$lib/exchange/ImportFiles.svelte';
  import ExportFiles from '$lib/exchange/ExportFiles.svelte';
  import Tokens from '$lib/exchange/Tokens.svelte';
</script>

<h1>Files and programs</h1>
<div class="mt-4 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_20rem]">
  <div class="flex min-w-0 flex-col gap-8">
    <section aria-labelledby="in">
      <h2 id="in">Bring a file in</h2>
      <ImportFiles />
    </section>
    <section aria-labelledby="out">
      <h2 id="out">Take the bush out</h2>
      <ExportFiles />
    </section>
  </div>
  <div class="flex flex-col gap-8">
    <section aria-labelledby="tokens">
      <h2 id="tokens">Programs</h2>
      <Tokens />
    </section>
    <p><a class="link" href="/bushes">Other bushes</a></p>
  </div>
</div>
