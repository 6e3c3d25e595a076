using System.Buffers.Binary;
using System.Globalization;
using System.Text;

namespace Jexa.Demo;

/// <summary>Some seconds of running water: noise that swells and sinks. The same for the same numbers.</summary>
internal sealed class WaterSound
{
    private const int Rate = 8_000;
    private const int HeaderLength = 44;

    /// <summary>One byte a sample; 128 is silence.</summary>
    private readonly byte[] _samples;

    private WaterSound(byte[] samples) => _samples = samples;

    public static WaterSound Of(SplitMix random)
    {
        var samples = new byte[(2 * Rate) + random.Below(Rate)];
        var swell = 0.4 + (random.Below(60) / 100.0);
        var (low, high) = (0.0, 0.0);
        for (var i = 0; i < samples.Length; i++)
        {
            var noise = (random.Below(2_001) - 1_000) / 1_000.0;
            low += (noise - low) * 0.08;
            high += (noise - high) * 0.5;
            var loud = 0.55 + (0.35 * Math.Sin(2 * Math.PI * swell * i / Rate));
            samples[i] = (byte)(128 + Math.Clamp(110 * loud * ((1.6 * low) + (0.25 * high)), -127, 127));
        }

        return new WaterSound(samples);
    }

    /// <summary>The sound as a WAV file: PCM, mono, 8 bits.</summary>
    public byte[] ToWav()
    {
        var file = new byte[HeaderLength + _samples.Length];
        "RIFF"u8.CopyTo(file);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(4), file.Length - 8);
        "WAVEfmt "u8.CopyTo(file.AsSpan(8));
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(16), 16);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(20), 1);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(22), 1);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(24), Rate);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(28), Rate);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(32), 1);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(34), 8);
        "data"u8.CopyTo(file.AsSpan(36));
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(40), _samples.Length);
        _samples.CopyTo(file, HeaderLength);
        return file;
    }

    /// <summary>The loudness of each tenth of a second, as CSV (RFC 4180).</summary>
    public string ToLevels()
    {
        var csv = new StringBuilder("second,level\r\n");
        for (var start = 0; start < _samples.Length; start += Rate / 10)
        {
            var part = _samples.AsSpan(start, Math.Min(Rate / 10, _samples.Length - start));
            var sum = 0.0;
            foreach (var sample in part)
                sum += (sample - 128.0) * (sample - 128.0);
            csv.Append(CultureInfo.InvariantCulture, $"{start / (double)Rate:0.0},{Math.Sqrt(sum / part.Length):0.0}\r\n");
        }

        return csv.ToString();
    }
}
