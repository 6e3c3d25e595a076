using System.Security.Cryptography;

namespace Jexa.Service.Assets;

/// <summary>A file inside the program.</summary>
public sealed class Asset
{
    private readonly Lazy<byte[]?> _compressed;

    public Asset(string name, string mediaType, byte[] bytes)
    {
        (Name, MediaType, Bytes) = (name, mediaType, bytes);
        Tag = Convert.ToHexStringLower(SHA256.HashData(bytes).AsSpan(0, 6));
        _compressed = new Lazy<byte[]?>(() =>
        {
            using var compressed = Compression.TryCompress(bytes);
            return compressed?.Written.ToArray();
        });
    }

    public string Name { get; }

    public string MediaType { get; }

    public byte[] Bytes { get; }

    /// <summary>The bytes compressed by <see cref="Compression"/>; null if that does not make them fewer.</summary>
    public byte[]? Compressed => _compressed.Value;

    /// <summary>Changes when the bytes do.</summary>
    public string Tag { get; }

    /// <summary>Reads a file that was embedded into this program.</summary>
    public static Asset Embedded(string resource, string name, string mediaType)
    {
        using var stream = typeof(Asset).Assembly.GetManifestResourceStream(resource)
            ?? throw new InvalidOperationException($"The program was built without {resource}.");
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return new Asset(name, mediaType, bytes);
    }
}
