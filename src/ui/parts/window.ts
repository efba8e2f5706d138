'use client'

import { Modal, ModalOverlay } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

/** Dims the page behind a dialog. */
export const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 50;
  background: ${desk.veil};
  display: grid;
  place-items: center;
  padding: 20px;
`

/** The card a dialog stands on. */
export const Card = styled(Modal)<{ $width: number }>`
  background: ${desk.paper};
  color: ${desk.ink};
  border-radius: 16px;
  width: min(${(p) => p.$width}px, 100%);
  max-height: 92dvh;
  overflow: auto;
  /* All of the card is the dialog: whoever clicks beside its parts keeps the focus, and Escape closes it. */
  [role='dialog'], [role='alertdialog'] { outline: none; display: grid; gap: 14px; padding: 24px; }
`
