/** Something made in the page, saved as a file. */
export function download(content: Blob, name: string) {
	const url = URL.createObjectURL(content);
	const a = document.createElement('a');
	a.href = url;
	a.download = name;
	a.click();
	setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
