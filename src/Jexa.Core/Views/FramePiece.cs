namespace Jexa.Core.Views;

/// <summary>A piece of a frame, the same on every page.</summary>
/// <param name="Page">The page that the link at the end of the piece leads to; null if it ends otherwise. On that page the link
/// is marked as the present one.</param>
public readonly record struct FramePiece(byte[] Html, string? Page);
