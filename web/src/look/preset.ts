import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

/** Granary's look for the component library: colours from palette.css, hairlines, 3 px corners, no shadows. */
const scheme = {
  primary: {
    color: 'var(--grain)',
    contrastColor: 'var(--on-grain)',
    hoverColor: 'var(--grain-strong)',
    activeColor: 'var(--grain-strong)',
  },
  highlight: { background: 'var(--wash)', focusBackground: 'var(--wash)', color: 'var(--ink)', focusColor: 'var(--ink)' },
  text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--ink-soft)', hoverMutedColor: 'var(--ink-soft)' },
  content: {
    background: 'transparent',
    hoverBackground: 'var(--wash)',
    borderColor: 'var(--rule)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  },
  formField: {
    background: 'var(--sheet)',
    borderColor: 'var(--rule)',
    hoverBorderColor: 'var(--ink-soft)',
    focusBorderColor: 'var(--grain)',
    color: 'var(--ink)',
    placeholderColor: 'var(--ink-soft)',
    invalidBorderColor: 'var(--brick)',
    shadow: 'none',
    disabledBackground: 'var(--wash)',
    disabledColor: 'var(--ink-soft)',
    iconColor: 'var(--ink-soft)',
  },
  overlay: {
    select: { background: 'var(--sheet)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    popover: { background: 'var(--sheet)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    modal: { background: 'var(--sheet)', borderColor: 'var(--rule)', color: 'var(--ink)' },
  },
  mask: { background: 'rgba(36, 33, 27, 0.35)' },
}

export const preset = definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '3px', sm: '3px', md: '3px', lg: '3px', xl: '3px' } },
  semantic: {
    focusRing: { width: '2px', style: 'solid', color: 'var(--slate)', offset: '2px' },
    formField: { paddingX: '0.65rem', paddingY: '0.45rem' },
    colorScheme: { light: scheme, dark: scheme },
  },
  components: {
    progressbar: { root: { height: '0.6rem', background: 'var(--rule-soft)' }, value: { background: 'var(--grain)' } },
  },
})
