import type { Person } from '$store/auth';

declare global {
	namespace App {
		interface Locals {
			person?: Person;
			/** the database was away while this page was made: it tries again by itself */
			isAway?: boolean;
		}
		interface Error {
			message: string;
			reference?: string;
			/** what failed is waited for: the page tries again */
			isAway?: boolean;
		}
	}
}

export {};
