import { BarChart, CustomChart, LineChart } from 'echarts/charts';
import { AriaComponent, GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

use([AriaComponent, BarChart, CustomChart, GridComponent, LineChart, MarkLineComponent, SVGRenderer, TooltipComponent]);

export { init };
