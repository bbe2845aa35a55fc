/** What the Plan is drawn with: the shapes it uses, and no others of the package. */
import 'konva/lib/shapes/Arc.js';
import 'konva/lib/shapes/Arrow.js';
import 'konva/lib/shapes/Circle.js';
import 'konva/lib/shapes/Image.js';
import 'konva/lib/shapes/Label.js';
import 'konva/lib/shapes/Line.js';
import 'konva/lib/shapes/Path.js';
import 'konva/lib/shapes/Rect.js';
import 'konva/lib/shapes/Text.js';

export * from 'react-konva/lib/ReactKonvaCore.js';
