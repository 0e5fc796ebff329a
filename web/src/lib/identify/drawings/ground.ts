import type { Stroke } from './stroke.ts';

/** The ground that a tree stands on. */
export function ground(state: string): Stroke[] {
  const trunk: Stroke = { d: 'M46 6 C 47 30 45 50 40 62 H62 C 56 50 54 30 55 6', width: 2, fill: '#9a9187' };
  switch (state) {
    case 'wet':
      return [
        trunk,
        { d: 'M6 62 H94 V98 H6 Z', width: 0, fill: '#9fb8c9', opacity: 0.7 },
        { d: 'M8 70 q8 -5 16 0 t16 0 t16 0 t16 0 t16 0 M14 84 q8 -5 16 0 t16 0 t16 0 t16 0', width: 1.8 },
        { d: 'M16 66 L12 44 M19 66 L19 40 M22 66 L27 46 M78 66 L74 42 M82 66 L84 38', width: 1.6, ink: '#6f8b3d' }
      ];
    case 'moist':
      return [
        trunk,
        { d: 'M6 62 Q50 56 94 62 V98 H6 Z', width: 1.6, fill: '#7a5b41', opacity: 0.55 },
        {
          d: 'M20 60 q-4 -10 -9 -12 M22 60 q1 -12 6 -16 M76 60 q-3 -12 -9 -14 M79 60 q2 -10 8 -13',
          width: 1.8,
          ink: '#6f8b3d'
        },
        { d: 'M30 80 q8 -4 16 0 t16 0', width: 1.6 }
      ];
    default:
      return [
        trunk,
        { d: 'M6 78 Q44 60 94 50 V98 H6 Z', width: 1.6, fill: '#c9ad7f', opacity: 0.75 },
        { d: 'M20 86 h9 l3 6 h-14 Z M48 80 h8 l4 6 h-15 Z M74 74 h9 l2 6 h-13 Z', width: 1.4, fill: '#b9b2a5' }
      ];
  }
}
