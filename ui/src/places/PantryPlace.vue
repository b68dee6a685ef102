<script setup lang="ts">
import ShelfOfRows from '../parts/ShelfOfRows.vue'
</script>

<template>
  <ShelfOfRows
    kind="lots"
    heading="Pantry"
    about="the pastes that are there"
    add="Add a lot"
    empty="The pantry is empty: add the pastes that you have, with what their labels say."
  />
</template>
