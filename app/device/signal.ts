import { ref } from 'vue'

/** Whether the last call reached the server. */
export const signal = ref(true)
