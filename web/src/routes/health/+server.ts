import { json } from '@sveltejs/kit';

/** Is the process alive? Asked by whatever watches over it; nothing else is looked at. */
export const GET = () => json({ alive: true });
