import { describe, expect, it } from 'vitest';
import { passwordStrength } from './strength.ts';

describe('passwords that anybody would try', () => {
  // Shapes of passwords that lead published lists of leaked ones, made as long as the rule asks (from memory).
  it.each([
    'password1234',
    'qwertyuiop12',
    '123456789012',
    'aaaaaaaaaaaa',
    'iloveyou1234',
    'Password123!',
    'qwerty123456',
  ])('%s', (password) => {
    expect(passwordStrength(password, []).common).toBe(true);
  });

  it('are names that others know, too', () => {
    expect(passwordStrength('marentolliver', ['Maren Tolliver', 'maren']).common).toBe(true);
    expect(passwordStrength('pellwinglass1', ['Pellwin Glass']).common).toBe(true);
  });

  it('are not several words by chance, nor what is long and mixed', () => {
    expect(passwordStrength('gravel lantern otter pine', [])).toMatchObject({ score: 4, common: false });
    expect(passwordStrength('t7#Kq!vv02-Lm', []).common).toBe(false);
  });
});
