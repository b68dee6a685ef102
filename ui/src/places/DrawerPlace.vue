<script setup lang="ts">
import ShelfOfRows from '../parts/ShelfOfRows.vue'
import { useWords } from '../words/words'

const w = useWords()
</script>

<template>
  <ShelfOfRows
    kind="tools"
    heading="Tool drawer"
    :about="w('moulds, and what they hold')"
    :add="w('Add a mould')"
    :empty="w('No mould yet: measure one, and weigh a piece from it.')"
  />
</template>
