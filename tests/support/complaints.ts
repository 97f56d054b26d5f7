import ts from 'typescript';

/** What the compiler says of a file and of all it rests on. */
export function complaints(file: string, folder: string): string[] {
	const { options } = ts.convertCompilerOptionsFromJson(
		{
			strict: true,
			noEmit: true,
			target: 'esnext',
			lib: ['esnext'],
			skipLibCheck: true,
			module: 'esnext',
			moduleResolution: 'bundler'
		},
		folder
	);
	return ts
		.getPreEmitDiagnostics(ts.createProgram([file], { ...options, types: [] }))
		.map((d) => ts.flattenDiagnosticMessageText(d.messageText, '\n'));
}
