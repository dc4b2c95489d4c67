<template>
  <div class="bare"><slot /></div>
</template>

<style scoped>
.bare {
  height: 100%;
}
</style>
