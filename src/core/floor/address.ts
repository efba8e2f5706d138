/** True for the path of a page of the floor: the only ones that may open a camera or a microphone. */
export const isFloor = (path: string): boolean => /^\/r\/[^/]+\/floor$/.test(path)
