import { definePreset } from '@primeuix/themes'
import base from '@primeuix/themes/aura/base'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import dialog from '@primeuix/themes/aura/dialog'
import inputtext from '@primeuix/themes/aura/inputtext'
import select from '@primeuix/themes/aura/select'
import textarea from '@primeuix/themes/aura/textarea'

// Only the components in use, by name: the whole preset would cost the first page.
export const DustyFern = definePreset(
  { ...base, components: { button, inputtext, textarea, select, dialog, checkbox } },
  {
    primitive: { borderRadius: { none: '0', xs: '4px', sm: '6px', md: '6px', lg: '10px', xl: '10px' } },
    semantic: {
      primary: {
        50: '#f1f5f2',
        100: '#e6eee7',
        200: '#c9d8cc',
        300: '#9cc3a6',
        400: '#769884',
        500: '#3f6350',
        600: '#38594a',
        700: '#2f4a3d',
        800: '#283d33',
        900: '#22332a',
        950: '#17261d',
      },
      focusRing: { width: '3px', style: 'solid', color: '{primary.color}', offset: '2px' },
      formField: { paddingX: '0.8rem', paddingY: '0.6rem' },
      colorScheme: {
        light: {
          surface: {
            0: '#ffffff',
            50: '#f7f4ec',
            100: '#f0ebdf',
            200: '#e6e0d2',
            300: '#d3cbb8',
            400: '#8a8577',
            500: '#6d6a5f',
            600: '#5c6b60',
            700: '#474640',
            800: '#33352f',
            900: '#22332a',
            950: '#17261d',
          },
          formField: { placeholderColor: '{surface.600}', borderColor: '{surface.400}' },
          text: { color: '#22332a', hoverColor: '#22332a', mutedColor: '#5c6b60', hoverMutedColor: '#22332a' },
          primary: {
            color: '{primary.500}',
            contrastColor: '#ffffff',
            hoverColor: '{primary.600}',
            activeColor: '{primary.700}',
          },
          highlight: { background: '#e6eee7', focusBackground: '#c9d8cc', color: '#22332a', focusColor: '#22332a' },
        },
        dark: {
          surface: {
            0: '#ede8da',
            50: '#ece7dc',
            100: '#d9d2c3',
            200: '#bfb7a6',
            300: '#aeb5a6',
            400: '#aeb5a6',
            500: '#808877',
            600: '#808877',
            700: '#3c4239',
            800: '#33413a',
            900: '#282c26',
            950: '#1e211d',
          },
          formField: { placeholderColor: '{surface.300}', borderColor: '{surface.500}', background: '#1e211d' },
          text: { color: '#ede8da', hoverColor: '#ede8da', mutedColor: '#aeb5a6', hoverMutedColor: '#ede8da' },
          primary: {
            color: '{primary.300}',
            contrastColor: '#17261d',
            hoverColor: '{primary.200}',
            activeColor: '{primary.100}',
          },
          highlight: { background: '#33413a', focusBackground: '#3c4239', color: '#ede8da', focusColor: '#ede8da' },
        },
      },
    },
  },
)
