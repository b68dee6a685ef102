<script setup lang="ts">
import JournalPanel from '../parts/JournalPanel.vue'
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Journal</h1>
      <span class="quiet">what was done in this studio, newest first</span>
    </header>
    <JournalPanel :commission="0" />
  </div>
</template>
