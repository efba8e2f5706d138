'use client'

import { createGlobalStyle } from 'styled-components'
import { PALETTE_STYLE } from './palette'
import { desk, font } from './tokens'

/** What holds for every page. */
export const GlobalStyle = createGlobalStyle`
  ${PALETTE_STYLE}
  *, *::before, *::after { box-sizing: border-box; }
  html, body { margin: 0; height: 100%; }
  html:not([data-awake]) * { cursor: progress; }
  body {
    background: ${desk.paper};
    color: ${desk.ink};
    font: 400 15px/1.45 ${font.text};
    font-feature-settings: 'tnum';
    -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3 { font-family: ${font.display}; font-weight: 650; line-height: 1.15; margin: 0; }
  h1 { font-size: 28px; letter-spacing: -0.01em; }
  h2 { font-size: 19px; }
  h3 { font-size: 15px; }
  p { margin: 0; }
  a { color: inherit; }
  button, input, select { font: inherit; color: inherit; }
  /* Arabic and Hebrew are typed from the right, whatever the page is written in. */
  input, textarea { unicode-bidi: plaintext; }
  :focus-visible, [data-focus-visible] { outline: 2.5px solid ${desk.azalea}; outline-offset: 2px; }
  /* Grounds are not drawn in forced colours: what is chosen gets a line. */
  @media (forced-colors: active) {
    [aria-selected='true'], [aria-pressed='true'], [aria-checked='true'], [aria-current]:not([aria-current='false']), [data-selected] {
      outline: 2px solid Highlight; outline-offset: -2px;
    }
    :focus-visible, [data-focus-visible] { outline: 3px dashed CanvasText; outline-offset: 2px; }
  }
  @media (prefers-reduced-motion: reduce) {
    *, *::before, *::after { animation: none !important; transition: none !important; scroll-behavior: auto !important; }
  }
`
