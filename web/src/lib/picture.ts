import { downloadBlob } from './download';

const SHOWN = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'font-size', 'font-family', 'opacity'];

/** Hand a drawing to the person as a PNG of twice its size, in the colours that it has on the screen. */
export function saveDrawing(drawing: SVGSVGElement, [wide, high]: [number, number], name: string): void {
	const copy = drawing.cloneNode(true) as SVGSVGElement;
	const all = [drawing, ...drawing.querySelectorAll('*')];
	[copy, ...copy.querySelectorAll('*')].forEach((node, n) => {
		const style = getComputedStyle(all[n] as Element);
		for (const key of SHOWN) (node as SVGElement).style.setProperty(key, style.getPropertyValue(key));
	});
	const image = new Image();
	image.onload = () => {
		const canvas = document.createElement('canvas');
		[canvas.width, canvas.height] = [wide * 2, high * 2];
		const paper = canvas.getContext('2d');
		if (!paper) return;
		paper.fillStyle = getComputedStyle(document.body).backgroundColor;
		paper.fillRect(0, 0, canvas.width, canvas.height);
		paper.drawImage(image, 0, 0, canvas.width, canvas.height);
		canvas.toBlob((blob) => blob && downloadBlob(blob, `${name}.png`));
	};
	const text = new XMLSerializer().serializeToString(copy);
	image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
}
