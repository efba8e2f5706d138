/** With which a page says whose it is: what one person did is never done as another who signed in meanwhile. */
export const PERSON_HEADER = 'x-person'
