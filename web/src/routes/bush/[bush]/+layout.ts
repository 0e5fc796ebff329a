/**
 * Everything inside a bush is drawn by the browser from what the device holds, so that it works in the woods without a
 * network; the server sends the same empty page for all of it.
 */
export const ssr = false;
