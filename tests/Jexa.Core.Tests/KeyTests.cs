using System.Globalization;
using System.Text;
using CsCheck;
using Jexa.Core.Keys;
using Jexa.Core.Values;

namespace Jexa.Core.Tests;

public class KeyTests
{
    [Theory]
    [InlineData("7", 7, true)]
    [InlineData("0", 0, true)]
    [InlineData("-1", -1, true)]
    [InlineData("9223372036854775807", long.MaxValue, true)]
    [InlineData("-9223372036854775808", long.MinValue, true)]
    [InlineData("007", 7, false)]
    [InlineData("+7", 7, false)]
    [InlineData("-0", 0, false)]
    [InlineData("00", 0, false)]
    [InlineData("-007", -7, false)]
    [InlineData("+0", 0, false)]
    public void A_whole_number_is_read_and_only_its_one_spelling_is_canonical(string id, long value, bool canonical)
    {
        var reading = IntegerKey.Instance.Read(id);
        Assert.Equal(KeyFault.None, reading.Fault);
        Assert.Equal(new Constant.Whole(value), reading.Value);
        Assert.Equal(canonical, reading.IsCanonical);
    }

    [Theory]
    [InlineData(" 7")]
    [InlineData("7 ")]
    [InlineData("7.0")]
    [InlineData("7,0")]
    [InlineData("1e3")]
    [InlineData("0x7")]
    [InlineData("７")]
    [InlineData("٧")]
    [InlineData("7\n")]
    [InlineData("+-7")]
    [InlineData("--7")]
    [InlineData("-")]
    [InlineData("+")]
    [InlineData("")]
    [InlineData("abc")]
    [InlineData("1_000")]
    [InlineData("'; drop table bridge; --")]
    [InlineData("😀")]
    [InlineData("(7)")]
    public void What_is_no_whole_number_is_malformed(string id) => Assert.Equal(KeyFault.WrongForm, IntegerKey.Instance.Read(id).Fault);

    [Theory]
    [InlineData("9223372036854775808")]
    [InlineData("-9223372036854775809")]
    [InlineData("99999999999999999999999999")]
    public void A_number_beyond_the_type_is_out_of_range(string id) => Assert.Equal(KeyFault.OutOfRange, IntegerKey.Instance.Read(id).Fault);

    [Fact]
    public void Ten_thousand_digits_are_too_long() => Assert.Equal(KeyFault.TooLong, IntegerKey.Instance.Read(new string('1', 10_000)).Fault);

    [Fact]
    public void Every_whole_number_is_written_and_read_back() =>
        Gen.Long.Sample(value =>
        {
            var rows = new RowBlock();
            rows.Reset(1);
            rows.BeginRow();
            rows.AddNumber(CellKind.Integer, value);
            using var id = new Utf8Buffer();
            var reading = IntegerKey.Instance.TryWrite(rows[0], 0, id) ? IntegerKey.Instance.Read(id.ToString()) : default;
            return reading.IsCanonical && reading.Value == new Constant.Whole(value)
                && IntegerKey.Instance.Write(reading.Value!) == value.ToString(CultureInfo.InvariantCulture)
                && IntegerKey.Instance.Compare(rows[0], 0, reading.Value!) == KeyMatch.Exact;
        });

    [Fact]
    public void A_number_key_agrees_with_a_naive_reading_on_any_text() =>
        Gen.String[Gen.Char["0123456789+-. eE_x７"], 0, 24].Sample(id =>
        {
            var plain = id.Length > 0 && id[0] is '+' or '-' ? id[1..] : id;
            var isNumber = plain.Length > 0 && plain.All(char.IsAsciiDigit) && System.Numerics.BigInteger.Parse(id, CultureInfo.InvariantCulture) is var big
                && big >= long.MinValue && big <= long.MaxValue;
            var reading = IntegerKey.Instance.Read(id);
            return isNumber
                ? reading.Value is Constant.Whole whole && reading.IsCanonical == (whole.Value.ToString(CultureInfo.InvariantCulture) == id)
                : reading.Fault != KeyFault.None;
        });

    [Fact]
    public void Every_text_a_source_holds_is_written_and_read_back_or_refused() =>
        Gen.Byte.Array[0, 40].Sample(bytes =>
        {
            var rows = Text(bytes);
            using var id = new Utf8Buffer();
            var carried = bytes.Length > 0 && !bytes.Contains((byte)0) && System.Text.Unicode.Utf8.IsValid(bytes);
            if (!TextKey.Exact.TryWrite(rows[0], 0, id)) return !carried;
            var reading = TextKey.Exact.Read(id.ToString());
            return carried && reading.IsCanonical && TextKey.Exact.Compare(rows[0], 0, reading.Value!) == KeyMatch.Exact;
        });

    [Theory]
    [InlineData("AV-0007", "AV-0007", KeyMatch.Exact)]
    [InlineData("AV-0007", "av-0007", KeyMatch.CaseOnly)]
    [InlineData("AV-0007", "AV-0007 ", KeyMatch.None)]
    [InlineData("AV-0007", "AV-0008", KeyMatch.None)]
    [InlineData("é", "e\u0301", KeyMatch.None)]
    [InlineData("é", "e", KeyMatch.None)]
    [InlineData("Ø", "ø", KeyMatch.CaseOnly)]
    public void A_loaded_text_is_compared_code_unit_by_code_unit(string held, string asked, KeyMatch match) =>
        Assert.Equal(match, TextKey.Folding.Compare(Text(Encoding.UTF8.GetBytes(held))[0], 0, new Constant.Text(asked)));

    [Fact]
    public void A_text_never_passes_for_a_number_nor_a_number_for_a_text()
    {
        var rows = new RowBlock();
        rows.Reset(2);
        rows.BeginRow();
        rows.AddNumber(CellKind.Integer, 7);
        rows.AddRun(CellKind.Text, "7"u8);
        using var id = new Utf8Buffer();
        Assert.False(TextKey.Exact.TryWrite(rows[0], 0, id));
        Assert.False(IntegerKey.Instance.TryWrite(rows[0], 1, id));
        Assert.Equal(KeyMatch.None, TextKey.Exact.Compare(rows[0], 0, new Constant.Text("7")));
        Assert.Equal(KeyMatch.None, IntegerKey.Instance.Compare(rows[0], 1, new Constant.Whole(7)));
        Assert.Equal(0, id.Length);
    }

    [Theory]
    [InlineData(4096, KeyFault.None)]
    [InlineData(4097, KeyFault.TooLong)]
    public void A_text_of_over_four_kilobytes_is_too_long(int length, KeyFault fault) =>
        Assert.Equal(fault, TextKey.Exact.Read(new string('a', length)).Fault);

    private static RowBlock Text(byte[] bytes)
    {
        var rows = new RowBlock();
        rows.Reset(1);
        rows.BeginRow();
        rows.AddRun(CellKind.Text, bytes);
        return rows;
    }
}
