<script setup lang="ts"></script>

<template>
  <div class="flour nowhere">
    <h1>There is nothing at this address</h1>
    <p>It was mistyped, or what stood here was taken away.</p>
    <p><RouterLink to="/">To the studios</RouterLink></p>
  </div>
</template>

<style scoped>
.nowhere {
  padding: 24px;
  max-width: 560px;
}
</style>
