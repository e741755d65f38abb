/** The cookie with the name of whoever sits at this screen: a signature, not a login. */
export const PERSON_COOKIE = 'vanner-person';
