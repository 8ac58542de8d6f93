import type { Plugin } from 'vite'

export function openTexts(): Record<string, string>
export function openTextsPlugin(): Plugin
