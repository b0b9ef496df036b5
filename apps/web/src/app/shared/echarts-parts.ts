import { BarChart, LineChart, TreemapChart } from 'echarts/charts';
import { AriaComponent, GridComponent, MarkLineComponent, TitleComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

use([
  AriaComponent,
  BarChart,
  GridComponent,
  LineChart,
  MarkLineComponent,
  SVGRenderer,
  TitleComponent,
  TooltipComponent,
  TreemapChart,
]);

export { init };
