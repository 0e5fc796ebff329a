<script lang="ts">
  import { page } from '$app/state';
</script>

<svelte:head><title>Baumkin</title></svelte:head>

<main class="mx-auto flex min-h-screen max-w-xl flex-col justify-center gap-4 p-6">
  <h1>{page.status === 404 ? 'There is no such page' : 'That did not work'}</h1>
  <p>{page.error?.message}</p>
  {#if page.error?.id}<p class="aside">In the server’s log under {page.error.id}.</p>{/if}
  <p><a class="btn btn-primary" href="/">{page.status === 410 ? 'Sign in' : 'Back to the bush'}</a></p>
</main>
