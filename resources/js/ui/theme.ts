import type { GlobalThemeOverrides } from 'naive-ui';

/** Roles of colour. One set for light, one for dark; everything drawn or styled takes its colours from here. */
export interface Palette {
    paper: string; raised: string; ink: string; faint: string; hairline: string; band: string;
    petrol: string; onPetrol: string; marigold: string; brick: string; moss: string;
    veil: string; hatch: string; selection: string; slate: string;
}

export const light: Palette = {
    paper: '#F7F6F2', raised: '#FFFFFF', ink: '#1E2A32', faint: '#5A6770', hairline: '#DEDDD6', band: '#EEEDE7',
    petrol: '#0F5C6E', onPetrol: '#FFFFFF', marigold: '#D99A00', brick: '#AE3F2B', moss: '#446F36', veil: 'rgba(30,42,50,0.055)',
    hatch: 'rgba(30,42,50,0.055)', selection: '#E0EAEB', slate: '#7B878E',
};

export const dark: Palette = {
    paper: '#161D22', raised: '#1E272D', ink: '#E9E7E0', faint: '#A3AEB5', hairline: '#313C43', band: '#212B31',
    petrol: '#6FB9C8', onPetrol: '#10191D', marigold: '#E8B53A', brick: '#E58A76', moss: '#8FBF7D', veil: 'rgba(233,231,224,0.05)',
    hatch: 'rgba(233,231,224,0.06)', selection: '#24383F', slate: '#8B979E',
};

/** Colours of projects: full tone for the done part and edges, tint for the rest. In order of the working set. */
const TONES = [
    ['#5E4A85', '#CFC6E2', '#A58FD0', '#453B5E'], ['#2B7A72', '#BFE0DB', '#63B8AE', '#274A47'],
    ['#1F6A9E', '#BBD8EC', '#6BB0DE', '#244457'],
    ['#9A6A24', '#EBD7B7', '#D6A65E', '#4E4029'], ['#96476A', '#E9C9D7', '#D58CAB', '#4F3542'],
    ['#56682B', '#D5DDBB', '#A8BB74', '#3C4530'],
    ['#3D5A80', '#C5D2E3', '#88A8D2', '#303F52'], ['#8A4B3C', '#E6CDC6', '#CF9384', '#4B3731'],
] as const;

export interface Tone { full: string; tint: string }

export function tone(index: number, isDark: boolean): Tone {
    const t = TONES[index % TONES.length]!;
    return isDark ? { full: t[2], tint: t[3] } : { full: t[0], tint: t[1] };
}

export const FONT = "'Source Sans 3 Variable', 'Source Sans 3', sans-serif";

export function overrides(p: Palette): GlobalThemeOverrides {
    return {
        Progress: { fillColor: p.petrol, fillColorInfo: p.petrol, railColor: p.band },
        common: {
            fontFamily: FONT, fontSize: '14px', primaryColor: p.petrol, primaryColorHover: p.petrol, primaryColorPressed: p.petrol,
            primaryColorSuppl: p.petrol,
            bodyColor: p.paper, cardColor: p.raised, modalColor: p.raised, popoverColor: p.raised, tableColor: p.paper,
            inputColor: p.raised,
            textColorBase: p.ink, textColor1: p.ink, textColor2: p.ink, textColor3: p.faint, placeholderColor: p.faint,
            borderColor: p.hairline, dividerColor: p.hairline,
            errorColor: p.brick, warningColor: p.marigold, successColor: p.moss, borderRadius: '4px',
        },
        Button: { textColorPrimary: p.onPetrol, textColorHoverPrimary: p.onPetrol, textColorPressedPrimary: p.onPetrol,
            textColorFocusPrimary: p.onPetrol },
    };
}
