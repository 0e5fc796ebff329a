/** Set by the server as it ends a session, so that the browser knows of it, whatever page it opens next. */
export const LEFT_COOKIE = 'baumkin_left';
