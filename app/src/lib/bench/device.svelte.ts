/** What the device itself does at the bench: keeps its screen awake, sounds when a wait ends, says the next step, and darkens for a booth. */
const KEY = 'sarta-bench-device';

interface Kept {
	isDark: boolean;
	isMuted: boolean;
	speaks: boolean;
}
const AS_IT_COMES: Kept = { isDark: false, isMuted: false, speaks: false };

/** Two short tones and a longer one, Hz and s: heard over an extraction fan. */
const TONES = [
	[880, 0.15],
	[880, 0.15],
	[1320, 0.5]
] as const;

export class BenchDevice {
	isDark = $state(AS_IT_COMES.isDark);
	isMuted = $state(AS_IT_COMES.isMuted);
	speaks = $state(AS_IT_COMES.speaks);
	/** the screen stays awake by itself; where it cannot, the page says so */
	isAwake = $state(true);
	private lock?: WakeLockSentinel;
	private audio?: AudioContext;

	/** Browser only. @returns how to end */
	begin(): () => void {
		try {
			Object.assign(this, { ...AS_IT_COMES, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>) });
		} catch {
			// what another program wrote there is none of this one's
		}
		const wake = () => void this.stayAwake();
		document.addEventListener('visibilitychange', wake);
		wake();
		return () => {
			document.removeEventListener('visibilitychange', wake);
			void this.lock?.release();
			void this.audio?.close();
		};
	}
	change(what: Partial<Kept>) {
		Object.assign(this, what);
		try {
			localStorage.setItem(KEY, JSON.stringify({ isDark: this.isDark, isMuted: this.isMuted, speaks: this.speaks }));
		} catch {
			// a full or refused store: it holds for this visit
		}
	}
	private async stayAwake() {
		if (document.visibilityState !== 'visible') return;
		try {
			this.lock = await navigator.wakeLock.request('screen');
			this.isAwake = true;
		} catch {
			// not over plain http, nor with a battery at its end
			this.isAwake = false;
		}
	}
	/** A wait is over. */
	call() {
		if (this.isMuted) return;
		if (navigator.vibrate) navigator.vibrate([300, 100, 300, 100, 600]);
		try {
			const audio = (this.audio ??= new AudioContext());
			void audio.resume();
			let at = audio.currentTime;
			for (const [hz, seconds] of TONES) {
				const [tone, gain] = [audio.createOscillator(), audio.createGain()];
				tone.frequency.value = hz;
				gain.gain.value = 0.4;
				tone.connect(gain).connect(audio.destination);
				tone.start(at);
				tone.stop(at + seconds);
				at += seconds + 0.08;
			}
		} catch {
			// no sound here: the screen shows it all the same
		}
	}
	say(words: string) {
		if (!this.speaks || this.isMuted || typeof speechSynthesis === 'undefined') return;
		speechSynthesis.cancel();
		speechSynthesis.speak(new SpeechSynthesisUtterance(words));
	}
}
