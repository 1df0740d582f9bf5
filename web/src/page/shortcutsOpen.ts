import { ref } from 'vue'

/** Whether the list of all shortcuts is open: the header opens it, so does a key. */
export const shortcutsOpen = ref(false)
