import type { Component } from 'vue';
import LineEntry from './LineEntry.vue';
import PostalAddressEntry from './PostalAddressEntry.vue';

/** The control for each kind of answer. A kind that is not listed is entered as one line. */
const controls: Record<string, Component> = {
  postal_address: PostalAddressEntry,
};

export const controlFor = (type: string): Component => controls[type] ?? LineEntry;

/** Whether a control is several inputs under one label. */
export const isGroup = (type: string): boolean => type === 'postal_address';
