// before anything is drawn: the ground this device was last set to (lib/ui/ground.ts keeps it)
(function () {
	var kept = null;
	try {
		kept = localStorage.getItem('sarta-ground');
	} catch {
		// a browser that keeps nothing: light
	}
	if (kept === 'dark' || (kept === 'device' && matchMedia('(prefers-color-scheme: dark)').matches)) document.documentElement.dataset.ground = 'dark';
})();
