<script setup lang="ts">
import { toSVG } from 'bwip-js/browser'

/** A link that works once, shown once: as text to copy, and as a code for the person's own device. */
const props = defineProps<{ token: string; name: string }>()
const address = computed(() => `${location.origin}/start#${props.token}`)
const picture = computed(() => toSVG({ bcid: 'qrcode', text: address.value, scale: 3 }))
const copied = ref(false)
async function copy() {
  await navigator.clipboard?.writeText(address.value)
  copied.value = true
}
</script>

<template>
  <div class="link" role="status">
    <!-- eslint-disable-next-line vue/no-v-html -- drawn here, from our own address -->
    <div class="code" :aria-label="`Code of the link for ${name}`" role="img" v-html="picture" />
    <div class="words">
      <p>
        <strong>{{ name }}</strong> comes in by this link, and chooses password and PIN. It works once, and is
        not shown again.
      </p>
      <p class="mono address">{{ address }}</p>
      <ElButton size="large" @click="copy">{{ copied ? 'Copied' : 'Copy the link' }}</ElButton>
    </div>
  </div>
</template>

<style scoped>
.link {
  display: flex;
  flex-wrap: wrap;
  gap: 16px 24px;
  align-items: center;
}
.code {
  width: 168px;
  padding: 10px;
  background: white;
}
.code :deep(svg) {
  display: block;
  width: 100%;
}
.words {
  flex: 1 1 300px;
  min-width: 0;
}
.address {
  overflow-wrap: anywhere;
  user-select: all;
}
</style>
