"""What the core asks of OpenCV, with the element types its own stubs leave open.

OpenCV's stubs call every array "some number", so that a float map handed where labels are
wanted goes unseen. Here a picture keeps the element type it came with, and what a function
makes (labels, distances, gradients) is said. What is not listed is not used; add it here first.
Written after the functions' documentation and what they give back (tests/core/test_typed_opencv.py).
"""

from collections.abc import Sequence
from typing import Any, Literal, TypeAlias, TypeVar, overload

import numpy as np
from numpy.typing import NDArray

Element = TypeVar("Element", bound=np.generic)
Picture: TypeAlias = NDArray[Element]
AnyPicture: TypeAlias = NDArray[Any]
Float32: TypeAlias = NDArray[np.float32]
Float64: TypeAlias = NDArray[np.float64]
UInt8: TypeAlias = NDArray[np.uint8]
Int32: TypeAlias = NDArray[np.int32]
Size: TypeAlias = Sequence[int]
Scalar: TypeAlias = float | Sequence[float]
Stop: TypeAlias = tuple[int, int, float]

class error(Exception): ...

# Pictures that keep their element type.
def resize(
    src: Picture[Element],
    dsize: Size | None,
    dst: None = None,
    fx: float = 0,
    fy: float = 0,
    interpolation: int = 1,
) -> Picture[Element]: ...
def GaussianBlur(
    src: Picture[Element],
    ksize: Size,
    sigmaX: float,
    dst: Picture[Element] | None = None,
    sigmaY: float = 0,
    borderType: int = 4,
) -> Picture[Element]: ...
def blur(
    src: Picture[Element],
    ksize: Size,
    dst: Picture[Element] | None = None,
    anchor: Size = (-1, -1),
    borderType: int = 4,
) -> Picture[Element]: ...
def medianBlur(src: Picture[Element], ksize: int) -> Picture[Element]: ...
def bilateralFilter(
    src: Picture[Element], d: int, sigmaColor: float, sigmaSpace: float
) -> Picture[Element]: ...
def dilate(
    src: Picture[Element],
    kernel: AnyPicture | None,
    dst: Picture[Element] | None = None,
    anchor: Size = (-1, -1),
    iterations: int = 1,
    borderType: int = 0,
    borderValue: Scalar = ...,
) -> Picture[Element]: ...
def erode(
    src: Picture[Element],
    kernel: AnyPicture | None,
    dst: Picture[Element] | None = None,
    anchor: Size = (-1, -1),
    iterations: int = 1,
    borderType: int = 0,
    borderValue: Scalar = ...,
) -> Picture[Element]: ...
def morphologyEx(
    src: Picture[Element],
    op: int,
    kernel: AnyPicture | None,
    dst: Picture[Element] | None = None,
    anchor: Size = (-1, -1),
    iterations: int = 1,
    borderType: int = 0,
    borderValue: Scalar = ...,
) -> Picture[Element]: ...
def remap(
    src: Picture[Element],
    map1: AnyPicture,
    map2: AnyPicture,
    interpolation: int,
    dst: Picture[Element] | None = None,
    borderMode: int = 0,
    borderValue: Scalar = 0,
) -> Picture[Element]: ...
def warpAffine(
    src: Picture[Element],
    M: AnyPicture,
    dsize: Size,
    dst: Picture[Element] | None = None,
    flags: int = 1,
    borderMode: int = 0,
    borderValue: Scalar = 0,
) -> Picture[Element]: ...
def warpPerspective(
    src: Picture[Element],
    M: AnyPicture,
    dsize: Size,
    dst: Picture[Element] | None = None,
    flags: int = 1,
    borderMode: int = 0,
    borderValue: Scalar = 0,
) -> Picture[Element]: ...
def copyMakeBorder(
    src: Picture[Element],
    top: int,
    bottom: int,
    left: int,
    right: int,
    borderType: int,
    dst: None = None,
    value: Scalar = 0,
) -> Picture[Element]: ...
def cvtColor(src: Picture[Element], code: int) -> Picture[Element]: ...
def split(m: Picture[Element]) -> tuple[Picture[Element], ...]: ...
def transform(src: Picture[Element], m: AnyPicture) -> Picture[Element]: ...
def absdiff(src1: Picture[Element], src2: Picture[Element]) -> Picture[Element]: ...
def add(
    src1: Picture[Element], src2: Picture[Element], dst: Picture[Element] | None = None
) -> Picture[Element]: ...
def multiply(
    src1: Picture[Element], src2: Picture[Element], dst: Picture[Element] | None = None
) -> Picture[Element]: ...
def scaleAdd(
    src1: Picture[Element], alpha: float, src2: Picture[Element], dst: Picture[Element] | None = None
) -> Picture[Element]: ...

# A table of 256 entries answers with the table's element type.
def LUT(src: UInt8, lut: Picture[Element]) -> Picture[Element]: ...

# Masks, labels and distances.
def inRange(src: AnyPicture, lowerb: Scalar, upperb: Scalar) -> UInt8: ...
def Canny(image: UInt8, threshold1: float, threshold2: float) -> UInt8: ...
def getStructuringElement(shape: int, ksize: Size) -> UInt8: ...
def distanceTransform(src: UInt8, distanceType: int, maskSize: int) -> Float32: ...
def distanceTransformWithLabels(
    src: UInt8, distanceType: int, maskSize: int, labelType: int = 0
) -> tuple[Float32, Int32]: ...
def connectedComponents(image: UInt8, labels: None = None, connectivity: int = 8) -> tuple[int, Int32]: ...
def connectedComponentsWithStats(
    image: UInt8, labels: None = None, stats: None = None, centroids: None = None, connectivity: int = 8
) -> tuple[int, Int32, Int32, Float64]: ...
def countNonZero(src: AnyPicture) -> int: ...
def calcHist(
    images: Sequence[AnyPicture],
    channels: Sequence[int],
    mask: UInt8 | None,
    histSize: Sequence[int],
    ranges: Sequence[float],
) -> Float32: ...
def mean(src: AnyPicture, mask: UInt8 | None = None) -> tuple[float, float, float, float]: ...

# Gradients: the element type is the depth asked for.
@overload
def Sobel(
    src: AnyPicture,
    ddepth: Literal[5],
    dx: int,
    dy: int,
    dst: None = None,
    ksize: int = 3,
    scale: float = 1,
) -> Float32: ...
@overload
def Sobel(
    src: AnyPicture,
    ddepth: Literal[6],
    dx: int,
    dy: int,
    dst: None = None,
    ksize: int = 3,
    scale: float = 1,
) -> Float64: ...
def Laplacian(
    src: AnyPicture, ddepth: Literal[5], dst: None = None, ksize: int = 1, scale: float = 1
) -> Float32: ...

# Drawn into the picture that is given.
def circle(
    img: Picture[Element],
    center: Sequence[int],
    radius: int,
    color: Scalar,
    thickness: int = 1,
    lineType: int = 8,
    shift: int = 0,
) -> Picture[Element]: ...
def line(
    img: Picture[Element],
    pt1: Sequence[int],
    pt2: Sequence[int],
    color: Scalar,
    thickness: int = 1,
    lineType: int = 8,
    shift: int = 0,
) -> Picture[Element]: ...
def polylines(
    img: Picture[Element],
    pts: Sequence[Int32],
    isClosed: bool,
    color: Scalar,
    thickness: int = 1,
    lineType: int = 8,
    shift: int = 0,
) -> Picture[Element]: ...
def fillPoly(
    img: Picture[Element],
    pts: Sequence[Int32],
    color: Scalar,
    lineType: int = 8,
    shift: int = 0,
) -> Picture[Element]: ...
def fillConvexPoly(
    img: Picture[Element], points: Int32, color: Scalar, lineType: int = 8, shift: int = 0
) -> Picture[Element]: ...
def drawContours(
    image: Picture[Element],
    contours: Sequence[Int32],
    contourIdx: int,
    color: Scalar,
    thickness: int = 1,
    lineType: int = 8,
    hierarchy: None = None,
    maxLevel: int = ...,
    offset: Size = (0, 0),
) -> Picture[Element]: ...
def putText(
    img: Picture[Element],
    text: str,
    org: Sequence[int],
    fontFace: int,
    fontScale: float,
    color: Scalar,
    thickness: int = 1,
    lineType: int = 8,
) -> Picture[Element]: ...

# Contours.
def findContours(
    image: UInt8,
    mode: int,
    method: int,
    contours: None = None,
    hierarchy: None = None,
    offset: Size = (0, 0),
) -> tuple[tuple[Int32, ...], Int32]: ...
def contourArea(contour: Int32 | Float32, oriented: bool = False) -> float: ...
def boundingRect(array: Int32 | Float32 | UInt8) -> tuple[int, int, int, int]: ...
def pointPolygonTest(contour: Int32 | Float32, pt: Sequence[float], measureDist: bool) -> float: ...

# Geometry.
def getPerspectiveTransform(src: Float32, dst: Float32) -> Float64: ...
def getAffineTransform(src: Float32, dst: Float32) -> Float64: ...
def findHomography(
    srcPoints: AnyPicture,
    dstPoints: AnyPicture,
    method: int = 0,
    ransacReprojThreshold: float = 3,
    mask: None = None,
    maxIters: int = 2000,
) -> tuple[Float64 | None, UInt8 | None]: ...
def findTransformECC(
    templateImage: Picture[Element],
    inputImage: Picture[Element],
    warpMatrix: Float32,
    motionType: int,
    criteria: Stop,
    inputMask: UInt8 | None,
    gaussFiltSize: int,
) -> tuple[float, Float32]: ...
def phaseCorrelate(
    src1: Float64, src2: Float64, window: Float64 | None = None
) -> tuple[tuple[float, float], float]: ...
def matchTemplate(image: Float32, templ: Float32, method: int) -> Float32: ...
def minMaxLoc(src: Float32) -> tuple[float, float, tuple[int, int], tuple[int, int]]: ...
def createHanningWindow(winSize: Size, type: Literal[6]) -> Float64: ...
def convertMaps(
    map1: Float32, map2: Float32, dstmap1type: int
) -> tuple[NDArray[np.int16], NDArray[np.uint16]]: ...
def HoughLinesP(
    image: UInt8,
    rho: float,
    theta: float,
    threshold: int,
    lines: None = None,
    minLineLength: float = 0,
    maxLineGap: float = 0,
) -> Int32 | None: ...

class LineSegmentDetector:
    def detect(
        self, image: UInt8
    ) -> tuple[Float32 | None, Float64 | None, Float64 | None, Float64 | None]: ...

def createLineSegmentDetector() -> LineSegmentDetector: ...

# Features, clusters, contrast.
class KeyPoint:
    pt: tuple[float, float]

class DMatch:
    queryIdx: int
    trainIdx: int
    distance: float

class SIFT:
    def detectAndCompute(
        self, image: UInt8, mask: UInt8 | None
    ) -> tuple[tuple[KeyPoint, ...], Float32 | None]: ...

def SIFT_create(nfeatures: int = 0, contrastThreshold: float = 0.04) -> SIFT: ...

class BFMatcher:
    def __init__(self, normType: int = 4) -> None: ...
    def knnMatch(
        self, queryDescriptors: Float32, trainDescriptors: Float32, k: int
    ) -> tuple[tuple[DMatch, ...], ...]: ...

class CLAHE:
    def apply(self, src: Picture[Element]) -> Picture[Element]: ...

def createCLAHE(clipLimit: float, tileGridSize: Size) -> CLAHE: ...
def kmeans(
    data: Float32, K: int, bestLabels: Int32 | None, criteria: Stop, attempts: int, flags: int
) -> tuple[float, Int32, Float32]: ...
def setRNGSeed(seed: int) -> None: ...

# Files.
def imencode(ext: str, img: AnyPicture, params: Sequence[int] = ...) -> tuple[bool, UInt8]: ...

BORDER_CONSTANT: int
BORDER_REPLICATE: int
CC_STAT_AREA: int
CC_STAT_HEIGHT: int
CC_STAT_TOP: int
CC_STAT_WIDTH: int
CHAIN_APPROX_NONE: int
CHAIN_APPROX_TC89_L1: int
COLOR_LRGB2Lab: int
COLOR_Lab2LRGB: int
COLOR_RGB2GRAY: int
COLOR_RGB2LAB: int
COLOR_RGBA2RGB: int
CV_16SC2: int
CV_32F: Literal[5]
CV_64F: Literal[6]
DIST_L2: int
DIST_LABEL_PIXEL: int
DIST_MASK_PRECISE: int
FILLED: int
FONT_HERSHEY_SIMPLEX: int
IMWRITE_JPEG_QUALITY: int
IMWRITE_PNG_COMPRESSION: int
IMWRITE_PNG_STRATEGY: int
IMWRITE_PNG_STRATEGY_RLE: int
INTER_AREA: int
INTER_CUBIC: int
INTER_LINEAR: int
INTER_NEAREST: int
KMEANS_PP_CENTERS: int
KMEANS_USE_INITIAL_LABELS: int
LINE_8: int
LINE_AA: int
MORPH_BLACKHAT: int
MORPH_CLOSE: int
MORPH_ELLIPSE: int
MORPH_GRADIENT: int
MORPH_OPEN: int
MOTION_AFFINE: int
MOTION_HOMOGRAPHY: int
NORM_L2: int
RANSAC: int
RETR_CCOMP: int
RETR_EXTERNAL: int
RETR_LIST: int
TERM_CRITERIA_COUNT: int
TERM_CRITERIA_EPS: int
TM_CCOEFF_NORMED: int
TERM_CRITERIA_MAX_ITER: int
WARP_INVERSE_MAP: int
