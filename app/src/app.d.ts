import type { Person } from '$store/auth';

declare global {
	namespace App {
		interface Locals {
			person?: Person;
		}
		interface Error {
			message: string;
			reference?: string;
		}
	}
}

export {};
