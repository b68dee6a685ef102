<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { PinView } from '../api/client'
import { useStep } from '../api/queries'
import type { Ghost } from '../pictures/BuntingLine.vue'

const props = defineProps<{
  op: string
  ghost: Ghost | null
  look: PinView | null
  asking: boolean
  wrong: string
  still?: boolean
}>()
const emit = defineEmits<{ shift: [op: string, at: number]; drop: []; leave: []; free: [op: string, title: string] }>()
const step = useStep(() => props.op)
const v = computed(() => (step.data.value?.op === props.op ? step.data.value : undefined))
const put = computed(() => props.ghost?.op === props.op && props.ghost)
const QUARTER = 15 * 60_000
const nudge = (by: number) => v.value && emit('shift', props.op, (put.value ? put.value.at : v.value.start) + by)
</script>

<template>
  <section class="flour reader" :class="{ held: op }" aria-live="polite" aria-label="What a pennant says">
    <p v-if="!op" class="quiet">
      Touch a pennant or a cord, or go along them with the arrow keys: what it is, how late it could be, and why it
      hangs there. Draw a pennant along its string to put it elsewhere.
    </p>
    <p v-else-if="!v" class="quiet">{{ step.error.value ? 'It is no longer on the line.' : 'Reading it.' }}</p>
    <template v-else>
      <div class="head">
        <h2>
          {{ v.title }} <span class="quiet small">{{ v.order }}</span>
        </h2>
        <p>
          <b>{{ v.when }}</b><template v-if="v.who">, {{ v.who }}</template
          >. {{ v.could }} {{ v.spare }}
          <span v-if="v.pinned" class="soon">{{ v.pinned }}</span>
        </p>
      </div>
      <ul v-if="!put && v.why.length" class="small quiet why">
        <li v-for="w in v.why" :key="w">{{ w }}</li>
      </ul>
      <div v-if="put" class="put">
        <p v-if="look && look.at === put.at">
          <b :class="{ danger: !look.may }">{{ look.says }}</b>{{ ' ' }}
          <template v-if="look.may && !look.moved && !look.worse.length"> Nothing else moves.</template>
          <template v-else-if="look.may && look.moved">
            {{ look.moved === 1 ? '1 other moves' : `${look.moved} others move` }}:
          </template>
        </p>
        <p v-else-if="!wrong" class="quiet">Planning with it there.</p>
        <ul v-if="look?.may" class="small" :class="{ old: look.at !== put.at }">
          <li v-for="w in look.worse" :key="w" class="danger">{{ w }}</li>
          <li v-for="m in look.moves" :key="m">{{ m }}</li>
        </ul>
      </div>
      <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
      <p v-if="v.may && !still" class="row acts">
        <Button label="15 min earlier" severity="secondary" outlined @click="nudge(-QUARTER)" />
        <Button label="15 min later" severity="secondary" outlined @click="nudge(QUARTER)" />
        <Button label="A day later" severity="secondary" outlined @click="nudge(96 * QUARTER)" />
        <template v-if="put">
          <Button label="It stays there" :disabled="asking || !look?.may" @click="emit('drop')" />
          <Button label="Leave it where it was" severity="secondary" text @click="emit('leave')" />
        </template>
        <Button v-else-if="!v.pinned" label="Pin it where it is" severity="secondary" outlined @click="nudge(0)" />
        <Button v-else label="Let it go" severity="secondary" outlined @click="emit('free', op, v.title)" />
        <span class="quiet small keys"
          ><kbd>Shift</kbd> with <kbd>←</kbd> <kbd>→</kbd> moves it, <kbd>Enter</kbd> keeps it</span
        >
      </p>
    </template>
  </section>
</template>

<style scoped>
.reader {
  padding: 8px 18px;
  border: 1px solid var(--linen);
}
.reader.held {
  position: sticky;
  bottom: 0;
  z-index: 3;
}
h2 {
  font-size: 19px;
  margin: 0 0 4px;
}
p {
  margin: 4px 0;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
.why {
  display: flex;
  flex-wrap: wrap;
  gap: 0 26px;
}
.old {
  opacity: 0.5;
}
.acts {
  gap: 8px;
  flex-wrap: wrap;
}
.acts :deep(button) {
  min-height: 44px;
}
@media (max-width: 760px) {
  .reader {
    bottom: 64px;
    padding: 10px 12px;
  }
  .keys {
    display: none;
  }
}
</style>
