<!-- The field of a new password. -->
<label class="flex flex-col gap-1">
  Password, 10 characters or more
  <input class="input w-full" name="password" type="password" autocomplete="new-password" minlength="10" required />
  <span class="aside">A short sentence is good.</span>
</label>
