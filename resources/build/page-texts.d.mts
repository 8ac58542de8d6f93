import type { Plugin } from 'vite'

export function languages(): string[]
export function catalogue(language: string): Record<string, string>
export function textsOf(first: string, language: string): Record<string, string>
export function openTexts(language?: string): Record<string, string>
export function workerTexts(): Record<string, Record<string, string>>
export function pageTextsPlugin(): Plugin
