namespace Jexa.Service.Media;

/// <summary>A kind of picture, told by how its file begins: names and endings say nothing.</summary>
internal sealed record PictureKind(string MediaType, bool IsDrawing);
