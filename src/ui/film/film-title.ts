import type { Film } from '@/core/routine'

/** A film by its name, and who dances in it. */
export const filmTitle = ({ name, whose }: Pick<Film, 'name' | 'whose'>): string =>
  whose ? `${whose}: ${name}` : name
