<script setup lang="ts">
import type { RecipeView } from '../api/client'
import WhyNumber from '../parts/WhyNumber.vue'

defineProps<{ recipe: RecipeView; base: string; total: string; plain?: string; large?: boolean }>()
</script>

<template>
  <div class="recipe" :class="{ large }">
    <div class="gels">
      <div v-for="g in recipe.gels" :key="g.name" class="gel">
        <span class="drop" :style="{ background: g.swatch }" aria-hidden="true"></span>
        <span>
          <span class="big">{{ g.grams.text }}</span> {{ g.name }}
          <WhyNumber :why="g.grams.why" :of="`${g.name}: ${g.grams.text}`" />
          <span v-if="g.mother" class="small quiet"><br />of {{ g.mother }}</span>
          <span v-if="g.short" class="small danger"><br />{{ g.short }}</span>
        </span>
      </div>
      <span v-if="large" class="into">
        into <b>{{ total || '100 g' }}</b> of {{ base
        }}<template v-if="plain"
          >; <b>{{ plain }}</b> stay plain</template
        >
      </span>
    </div>
    <p class="small">
      Reckoned: {{ recipe.off.text }} <WhyNumber :why="recipe.off.why" :of="recipe.off.text" />;
      <span class="quiet">{{ recipe.band }}</span>
    </p>
    <p v-if="recipe.reach" class="small danger">{{ recipe.reach }}</p>
    <p v-if="recipe.touchy" class="small soon">{{ recipe.touchy }}</p>
    <p v-if="recipe.sticky" class="small soon">{{ recipe.sticky }}</p>
  </div>
</template>

<style scoped>
.gels {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 28px;
  align-items: center;
}
.gel {
  display: flex;
  gap: 10px;
  align-items: center;
}
.drop {
  width: 18px;
  height: 24px;
  border-radius: 50% 50% 50% 50% / 64% 64% 36% 36%;
  border: 1px solid color-mix(in srgb, var(--ink) 30%, transparent);
  flex: none;
}
.big {
  font-size: 19px;
}
.large .big {
  font-size: 34px;
}
.recipe p {
  margin: 4px 0 0;
}
</style>
