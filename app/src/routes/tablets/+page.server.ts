import QRCode from 'qrcode';

/** Where tablets reach this server, as a picture for their cameras; nothing where it serves none. */
export const load = async () => {
	const address = process.env.SARTA_LAN_ADDRESS;
	if (!address) return { address: null, qr: null };
	return { address, qr: await QRCode.toDataURL(`${address}/bench`, { errorCorrectionLevel: 'M', margin: 2, scale: 8 }) };
};
