<script setup lang="ts">
import { useStudio } from '../api/queries'
import LinePanel from '../parts/LinePanel.vue'

const studio = useStudio()
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>The line</h1>
      <RouterLink :to="`/s/${studio}/bench`">To the bench</RouterLink>
      <RouterLink :to="`/s/${studio}/week`">Week sheet</RouterLink>
      <RouterLink :to="`/s/${studio}/workload`">Hands and hours</RouterLink>
      <a :href="`/api/s/${studio}/calendar`" download>For a calendar (.ics)</a>
    </header>
    <LinePanel :commission="0" />
  </div>
</template>
