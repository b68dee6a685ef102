<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import type { LineView } from '../api/client'
import { useStudio } from '../api/queries'

const props = defineProps<{ moved: LineView['moved']; why: string }>()
const studio = useStudio()
// seen in this browser: the same list is not shown twice
const key = computed(() => `dustyfern-seen-${studio.value}`)
const stamp = computed(() => props.moved.map((m) => m.op + m.to).join('|'))
const seen = ref(localStorage.getItem(key.value) ?? '')
function hide() {
  seen.value = stamp.value
  localStorage.setItem(key.value, stamp.value)
}
</script>

<template>
  <details v-if="moved.length && seen !== stamp" class="moved">
    <summary>
      The line was hung anew ({{ why }}): {{ moved.length === 1 ? '1 step has' : `${moved.length} steps have` }} moved
    </summary>
    <table class="facts">
      <caption class="vh">
        What moved
      </caption>
      <thead>
        <tr>
          <th scope="col">step</th>
          <th scope="col">from</th>
          <th scope="col">to</th>
          <th scope="col">why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in moved" :key="m.op">
          <th scope="row">{{ m.title }}</th>
          <td>{{ m.from }}</td>
          <td>{{ m.to }}</td>
          <td class="quiet">{{ m.why }}</td>
        </tr>
      </tbody>
    </table>
    <p class="row">
      <RouterLink :to="`/s/${studio}/line?before=1`">The line before and after</RouterLink>
      <Button label="Seen" severity="secondary" outlined @click="hide" />
    </p>
  </details>
</template>

<style scoped>
.moved {
  background: var(--honey-fill);
  border-radius: 10px;
  padding: 4px 16px;
  overflow-x: auto;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
td {
  white-space: nowrap;
}
td:last-child {
  white-space: normal;
  min-width: 160px;
}
</style>
