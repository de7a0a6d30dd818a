import { describe, expect, it } from 'vitest';
import { projectKey } from './projectKey';

describe('a project key', () => {
    it('is short, plain and in capitals', () => {
        expect([' tern-2 ', '7', 'A'.repeat(20)].map(projectKey)).toEqual(['TERN-2', '7', 'A'.repeat(20)]);
        for (const wrong of ['', '-A', 'A B', 'Å', 'A'.repeat(21), 'A/B']) expect(projectKey(wrong), wrong).toBeNull();
    });
});
