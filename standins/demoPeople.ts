/** The invented shop's people. PINs are printed by bin/start: this is demo data, not a secret. */
export const DEMO_PEOPLE = [
	{ name: 'Ines', pin: '1470', roles: ['planner', 'admin'] },
	{ name: 'Bram', pin: '2580', roles: ['welder'] },
	{ name: 'Odile', pin: '3690', roles: ['inspector'] }
] as const;
