<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Why } from '../api/client'
import { LaterDialog } from './LaterDialog'

defineProps<{ why?: Why; of: string }>()
const open = ref(false)
const ever = ref(false)
watch(open, () => (ever.value = true))
</script>

<template>
  <template v-if="why">
    <button type="button" class="link noprint" :aria-label="'why: ' + of" @click="open = true">why</button>
    <LaterDialog
      v-if="ever"
      v-model:visible="open"
      modal
      dismissable-mask
      :header="of"
      :style="{ width: 'min(560px, 94vw)' }"
    >
      <p>{{ why.rule }}</p>
      <p class="quiet formula">{{ why.formula }}</p>
      <table v-if="why.values.length" class="facts">
        <caption class="vh">
          The values that went in
        </caption>
        <tbody>
          <tr v-for="v in why.values" :key="v.name">
            <th scope="row">{{ v.name }}</th>
            <td>{{ v.text }}</td>
          </tr>
        </tbody>
      </table>
    </LaterDialog>
  </template>
</template>

<style scoped>
.formula {
  font-style: italic;
}
</style>
