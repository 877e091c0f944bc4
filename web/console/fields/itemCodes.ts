import { ref } from 'vue';

/** Counts what was changed in tables of item codes: they are no part of the draft, and yet what would be sent follows them. */
export const codesRevision = ref(0);
