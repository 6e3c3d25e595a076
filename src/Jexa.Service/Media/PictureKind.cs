namespace Jexa.Service.Media;

/// <summary>A kind of picture, told by the beginning of its file. Names and endings do not matter.</summary>
internal sealed record PictureKind(string MediaType, bool IsDrawing);
