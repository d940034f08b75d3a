/* Times CHOLMOD on a matrix from bench/solvers.ts: n, count, then (row, column, value) of the lower triangle, 64-bit little-endian.
   cc -O2 bench/cholmod.c -lcholmod -lm; prints analyse, factorise and solve in ms. */
#include <suitesparse/cholmod.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double now(void) {
	struct timespec t;
	clock_gettime(CLOCK_MONOTONIC, &t);
	return 1e3 * t.tv_sec + 1e-6 * t.tv_nsec;
}

int main(int argc, char **argv) {
	FILE *f = argc > 1 ? fopen(argv[1], "rb") : NULL;
	int64_t head[2];
	if (!f || fread(head, 8, 2, f) != 2) return 2;
	cholmod_common c;
	cholmod_start(&c);
	cholmod_triplet *t = cholmod_allocate_triplet(head[0], head[0], head[1], -1, CHOLMOD_REAL, &c);
	for (int64_t k = 0; k < head[1]; k++) {
		double row[3];
		if (fread(row, 8, 3, f) != 3) return 2;
		((int *)t->i)[k] = (int)row[0];
		((int *)t->j)[k] = (int)row[1];
		((double *)t->x)[k] = row[2];
	}
	t->nnz = head[1];
	cholmod_sparse *a = cholmod_triplet_to_sparse(t, 0, &c);
	double t0 = now();
	cholmod_factor *l = cholmod_analyze(a, &c);
	double t1 = now(), best = 1e30;
	for (int k = 0; k < 3; k++) {
		double s = now();
		cholmod_factorize(a, l, &c);
		double e = now() - s;
		if (e < best) best = e;
	}
	cholmod_dense *b = cholmod_ones(head[0], 1, CHOLMOD_REAL, &c);
	double t2 = now();
	cholmod_dense *x = cholmod_solve(CHOLMOD_A, l, b, &c);
	printf("%g %g %g\n", t1 - t0, best, now() - t2);
	return x ? 0 : 1;
}
