import { defineAsyncComponent } from 'vue'

/** A dialog that is fetched when the first one opens: the first page is shown without it. */
export const LaterDialog = defineAsyncComponent(() => import('primevue/dialog'))
