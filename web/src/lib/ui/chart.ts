import { Chart, LinearScale, LineController, LineElement, PointElement, ScatterController, Tooltip } from 'chart.js';

Chart.register(LinearScale, LineController, LineElement, PointElement, ScatterController, Tooltip);
Chart.defaults.font.family = "'Atkinson Hyperlegible Next Variable', sans-serif";
Chart.defaults.font.size = 13;

export { Chart };
