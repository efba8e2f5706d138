/** Voices that come with the app, the usual one first. */
export const APP_VOICES = ['clear', 'warm'] as const
export type AppVoice = (typeof APP_VOICES)[number]

/** What each is called for people. */
export const APP_VOICE_NAMES: Readonly<Record<AppVoice, string>> = { clear: 'clear', warm: 'low and warm' }
