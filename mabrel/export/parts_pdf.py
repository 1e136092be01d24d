"""Parts as PDF, by Skia: the same paths and paints, a page as large as the frame."""

from mabrel.export.parts import Drawn, Paint, Sheet
from mabrel.source.drawing import skia


def pdf_bytes(sheet: Sheet) -> bytes:
    """One page, a point for each frame pixel."""
    stream = skia.DynamicMemoryWStream()
    document = skia.PDF.MakeDocument(stream)
    canvas = document.beginPage(float(sheet.width), float(sheet.height))
    for part in sheet.parts:
        canvas.drawPath(_path(part), _paint(part.paint))
    document.endPage()
    document.close()
    return bytes(stream.detachAsData())


def _path(part: Drawn) -> "skia.Path":
    path = skia.Path()
    path.setFillType(skia.PathFillType.kEvenOdd)
    for curves in part.outlines:
        path.moveTo(*map(float, curves[0][0]))
        for curve in curves:
            path.cubicTo(*(float(number) for place in curve[1:] for number in place))
        path.close()
    return path


def _paint(paint: Paint) -> "skia.Paint":
    brush = skia.Paint(AntiAlias=True)
    if len(paint.colours) == 1:
        brush.setColor4f(skia.Color4f(*paint.colours[0]))
        return brush
    x1, y1, x2, y2 = paint.line
    codes = [skia.Color4f(*colour).toColor() for colour in paint.colours]
    points = [skia.Point(x1, y1), skia.Point(x2, y2)]
    brush.setShader(skia.GradientShader.MakeLinear(points=points, colors=codes))
    return brush
