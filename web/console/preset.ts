import base from '@primeuix/themes/aura/base';
import button from '@primeuix/themes/aura/button';
import inputtext from '@primeuix/themes/aura/inputtext';
import multiselect from '@primeuix/themes/aura/multiselect';
import select from '@primeuix/themes/aura/select';
import { definePreset } from '@primeuix/themes';

// Ledger paper and ink: every token of the library that a component of ours uses leads to a variable of theme.css.
const ink = 'var(--ink)';
const field = {
  background: 'transparent',
  filledBackground: 'transparent',
  filledFocusBackground: 'transparent',
  disabledBackground: 'transparent',
  borderColor: 'var(--rule-strong)',
  hoverBorderColor: ink,
  focusBorderColor: ink,
  invalidBorderColor: 'var(--call)',
  color: ink,
  disabledColor: 'var(--ink-faint)',
  placeholderColor: 'var(--ink-faint)',
  iconColor: 'var(--ink-soft)',
  shadow: 'none',
};
const colours = {
  surface: {
    0: 'var(--sheet)',
    50: 'var(--paper)',
    100: 'var(--wash)',
    200: 'var(--rule)',
    300: 'var(--rule)',
    400: 'var(--rule-strong)',
    500: 'var(--ink-soft)',
    600: 'var(--ink-soft)',
    700: ink,
    800: ink,
    900: ink,
    950: ink,
  },
  primary: { color: 'var(--brass)', contrastColor: 'var(--on-brass)', hoverColor: 'var(--brass)', activeColor: 'var(--brass)' },
  highlight: { background: 'var(--wash)', focusBackground: 'var(--wash)', color: ink, focusColor: ink },
  formField: field,
  text: { color: ink, hoverColor: ink, mutedColor: 'var(--ink-soft)', hoverMutedColor: ink },
  content: { background: 'var(--sheet)', hoverBackground: 'var(--wash)', borderColor: ink, color: ink, hoverColor: ink },
  overlay: {
    select: { background: 'var(--sheet)', borderColor: ink, color: ink },
    popover: { background: 'var(--sheet)', borderColor: ink, color: ink },
    modal: { background: 'var(--sheet)', borderColor: ink, color: ink },
  },
  list: {
    option: {
      padding: '4px 10px',
      focusBackground: 'var(--wash)',
      selectedBackground: 'var(--wash)',
      selectedFocusBackground: 'var(--wash)',
      color: ink,
      focusColor: ink,
      selectedColor: ink,
      selectedFocusColor: ink,
      icon: { color: 'var(--ink-soft)', focusColor: ink },
    },
    optionGroup: { padding: '6px 10px 2px', fontWeight: '400', background: 'transparent', color: 'var(--ink-soft)' },
  },
};

export const preset = definePreset(
  { ...base, components: { button, inputtext, multiselect, select } },
  {
    primitive: { borderRadius: { none: '0', xs: '0', sm: '1px', md: '2px', lg: '2px', xl: '2px' } },
    semantic: {
      transitionDuration: '0s',
      focusRing: { width: '2px', style: 'solid', color: ink, offset: '2px', shadow: 'none' },
      formField: { paddingX: '4px', paddingY: '3px', borderRadius: '0' },
      overlay: { select: { shadow: 'none' }, popover: { shadow: 'none' } },
      colorScheme: { light: colours, dark: colours },
    },
  },
);
