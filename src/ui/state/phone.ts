/** A phone or a tablet: it is touched, and has no mouse. */
export const isPhone = (): boolean => matchMedia('(hover: none) and (pointer: coarse)').matches
