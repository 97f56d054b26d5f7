/** The parts of Chart.js that Tevrik draws with, registered once. Loaded only by pages that show a chart. */
import {
	Chart,
	Filler,
	LineController,
	LineElement,
	LinearScale,
	PointElement,
	TimeScale,
	Tooltip
} from 'chart.js';
import 'chartjs-adapter-luxon';
import { PointWithErrorBar, ScatterWithErrorBarsController } from 'chartjs-chart-error-bars';
import annotation from 'chartjs-plugin-annotation';
import zoom from 'chartjs-plugin-zoom';

Chart.register(
	Filler,
	LineController,
	LineElement,
	LinearScale,
	PointElement,
	TimeScale,
	Tooltip,
	PointWithErrorBar,
	ScatterWithErrorBarsController,
	annotation,
	zoom
);

export { Chart };
