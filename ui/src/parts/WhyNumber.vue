<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import type { Why } from '../api/client'

defineProps<{ why?: Why; of: string }>()
const open = ref(false)
</script>

<template>
  <template v-if="why">
    <button type="button" class="link noprint" :aria-label="'why: ' + of" @click="open = true">why</button>
    <Dialog v-model:visible="open" modal dismissable-mask :header="of" :style="{ width: 'min(560px, 94vw)' }">
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
    </Dialog>
  </template>
</template>

<style scoped>
.formula {
  font-style: italic;
}
</style>
