<script setup lang="ts">
import type { BenchView } from '../api/client'

// The end of the evening: cover, label, clean, and what goes on without hands.
defineProps<{ ending: BenchView['ending'] }>()
</script>

<template>
  <section v-if="ending.length" class="flour list" aria-label="The end of the evening">
    <h2>The end of the evening</h2>
    <dl>
      <template v-for="p in ending" :key="p.head">
        <dt>{{ p.head }}</dt>
        <dd>
          {{ p.sum }}.
          <ul v-if="p.lines.length">
            <li v-for="x in p.lines" :key="x">{{ x }}</li>
          </ul>
        </dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
.list {
  padding: 14px 18px;
}
h2 {
  margin: 0 0 8px;
  font-size: 19px;
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 6px 14px;
  margin: 0;
}
dt {
  font-weight: 650;
  max-width: 110px;
}
dd {
  margin: 0;
}
ul {
  margin: 2px 0 0;
  padding-left: 18px;
  font-size: 15px;
}
</style>
