<script lang="ts">
  import Delete from '@lucide/svelte/icons/delete';

  /** Keys for numbers, large enough for gloves. */
  const {
    onkey,
    ondelete,
    extra
  }: {
    onkey: (digit: string) => void;
    ondelete: () => void;
    /** the key left of nought */
    extra: { readonly label: string; readonly press: () => void };
  } = $props();
</script>

<div class="grid grid-cols-3 gap-2" role="group" aria-label="Numbers">
  {#each ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as digit (digit)}
    <button type="button" class="btn h-14 text-2xl" onclick={() => onkey(digit)}>{digit}</button>
  {/each}
  <button type="button" class="btn h-14 text-lg" onclick={extra.press}>{extra.label}</button>
  <button type="button" class="btn h-14 text-2xl" onclick={() => onkey('0')}>0</button>
  <button type="button" class="btn h-14" aria-label="Take back a digit" onclick={ondelete}><Delete /></button>
</div>
