import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/bricolage-grotesque'
import 'vuetify/styles'
import './base.css'

import { createVuetify, type ThemeDefinition } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

const day: ThemeDefinition = {
  dark: false,
  colors: {
    background: '#f5f0e6',
    surface: '#fdfaf3',
    primary: '#2b2440',
    secondary: '#6b6279',
    error: '#b8361c',
    'on-background': '#2b2440',
    'on-surface': '#2b2440',
  },
}

const night: ThemeDefinition = {
  dark: true,
  colors: {
    background: '#1e1a2b',
    surface: '#282338',
    primary: '#efe8da',
    secondary: '#b3a9bd',
    error: '#ff8a6b',
    'on-background': '#efe8da',
    'on-surface': '#efe8da',
  },
}

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: { defaultTheme: 'day', themes: { day, night } },
  defaults: {
    VMenu: { offset: 6 },
    VTextField: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
  },
})
