import { config } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia } from 'pinia'
import { afterAll, vi } from 'vitest'
import { defineAsyncComponent, type Component } from 'vue'

const files = import.meta.glob<{ default: Component }>('../../app/{components,drawings}/**/*.vue')
const nameOf = (path: string) => path.split('/').at(-1)!.replace('.vue', '')
config.global.plugins = [ElementPlus, createPinia()]
config.global.components = Object.fromEntries(
  Object.entries(files).map(([path, load]) => [
    nameOf(path),
    defineAsyncComponent(async () => (await load()).default),
  ]),
)
config.global.stubs = { NuxtLink: { template: '<a><slot /></a>' }, transition: false }

// What a form mounts late is there before its document goes away.
afterAll(() => vi.dynamicImportSettled())
