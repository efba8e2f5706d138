/* The program of a practice page that is a file: nothing is loaded from anywhere, nothing is sent. */
import { show } from './show'

show(null)
