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
        Assert.Equal(new TypedValue.Whole(value), reading.Value);
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
    public void What_is_no_whole_number_is_malformed(string id) =>
        Assert.Equal(KeyFault.WrongForm, IntegerKey.Instance.Read(id).Fault);

    [Theory]
    [InlineData("9223372036854775808")]
    [InlineData("-9223372036854775809")]
    [InlineData("99999999999999999999999999")]
    public void A_number_beyond_the_type_is_out_of_range(string id) =>
        Assert.Equal(KeyFault.OutOfRange, IntegerKey.Instance.Read(id).Fault);

    [Fact]
    public void Ten_thousand_digits_are_too_long() =>
        Assert.Equal(KeyFault.TooLong, IntegerKey.Instance.Read(new string('1', 10_000)).Fault);

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
            return reading.IsCanonical
                && reading.Value == new TypedValue.Whole(value)
                && IntegerKey.Instance.Write(reading.Value!) == value.ToString(CultureInfo.InvariantCulture)
                && IntegerKey.Instance.Compare(rows[0], 0, reading.Value!) == KeyMatch.Exact;
        });

    [Fact]
    public void A_number_key_agrees_with_a_naive_reading_on_any_text() =>
        Gen.String[Gen.Char["0123456789+-. eE_x７"], 0, 24]
            .Sample(id =>
            {
                var plain = id.Length > 0 && id[0] is '+' or '-' ? id[1..] : id;
                var isNumber =
                    plain.Length > 0
                    && plain.All(char.IsAsciiDigit)
                    && System.Numerics.BigInteger.Parse(id, CultureInfo.InvariantCulture) is var big
                    && big >= long.MinValue
                    && big <= long.MaxValue;
                var reading = IntegerKey.Instance.Read(id);
                return isNumber
                    ? reading.Value is TypedValue.Whole whole
                        && reading.IsCanonical == (whole.Value.ToString(CultureInfo.InvariantCulture) == id)
                    : reading.Fault != KeyFault.None;
            });

    [Fact]
    public void Every_text_a_source_holds_is_written_and_read_back_or_refused() =>
        Gen
            .Byte.Array[0, 40]
            .Sample(bytes =>
            {
                var rows = Text(bytes);
                using var id = new Utf8Buffer();
                var carried = bytes.Length > 0 && !bytes.Contains((byte)0) && System.Text.Unicode.Utf8.IsValid(bytes);
                if (!TextKey.Exact.TryWrite(rows[0], 0, id))
                    return !carried;
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
        Assert.Equal(match, TextKey.Folding.Compare(Text(Encoding.UTF8.GetBytes(held))[0], 0, new TypedValue.Text(asked)));

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
        Assert.Equal(KeyMatch.None, TextKey.Exact.Compare(rows[0], 0, new TypedValue.Text("7")));
        Assert.Equal(KeyMatch.None, IntegerKey.Instance.Compare(rows[0], 1, new TypedValue.Whole(7)));
        Assert.Equal(0, id.Length);
    }

    [Theory]
    [InlineData("0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54", true)]
    [InlineData("0B5AD0F2-6C0E-4B39-9F0A-3D2F7F1C9E54", false)]
    [InlineData("{0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54}", false)]
    [InlineData("0b5ad0f26c0e4b399f0a3d2f7f1c9e54", false)]
    public void A_UUID_is_read_in_each_usual_spelling_and_one_is_canonical(string id, bool canonical)
    {
        var reading = UuidKey.Instance.Read(id);
        Assert.Equal(new TypedValue.Uuid(Guid.Parse("0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54")), reading.Value);
        Assert.Equal(canonical, reading.IsCanonical);
    }

    [Theory]
    [InlineData("0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e5")]
    [InlineData("0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e5g")]
    [InlineData("(0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54)")]
    [InlineData("0b5ad0f2_6c0e_4b39_9f0a_3d2f7f1c9e54")]
    [InlineData(" 0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e5")]
    [InlineData("urn:uuid:0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54")]
    [InlineData("７b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54")]
    [InlineData("7")]
    public void What_is_no_UUID_is_malformed(string id) => Assert.NotEqual(KeyFault.None, UuidKey.Instance.Read(id).Fault);

    [Fact]
    public void Every_UUID_is_written_and_read_back() =>
        Gen.Guid.Sample(uuid =>
        {
            var rows = new RowBlock();
            rows.Reset(1);
            rows.BeginRow();
            rows.AddRun(CellKind.Uuid, uuid.ToByteArray(bigEndian: true));
            using var id = new Utf8Buffer();
            return UuidKey.Instance.TryWrite(rows[0], 0, id)
                && UuidKey.Instance.Read(id.ToString()) is { IsCanonical: true } reading
                && reading.Value == new TypedValue.Uuid(uuid)
                && UuidKey.Instance.Compare(rows[0], 0, reading.Value!) == KeyMatch.Exact;
        });

    [Theory]
    [InlineData("2024-02-29", true)]
    [InlineData("0001-01-01", true)]
    [InlineData("9999-12-31", true)]
    [InlineData("2023-02-29", false)]
    [InlineData("2024-02-30", false)]
    [InlineData("2024-2-9", false)]
    [InlineData("29.02.2024", false)]
    [InlineData("2024-02-29T00:00", false)]
    [InlineData("٢٠٢٤-02-29", false)]
    [InlineData("２０２４-02-29", false)]
    [InlineData("0000-01-01", false)]
    [InlineData("-024-02-29", false)]
    [InlineData("", false)]
    public void A_date_has_one_spelling(string id, bool isDate)
    {
        var reading = DateKey.Instance.Read(id);
        Assert.Equal(isDate, reading.Fault == KeyFault.None);
        if (!isDate)
            return;
        Assert.True(reading.IsCanonical);
        Assert.Equal(id, DateKey.Instance.Write(reading.Value!));
    }

    [Theory]
    [InlineData("true", true, true)]
    [InlineData("false", false, true)]
    [InlineData("True", true, false)]
    [InlineData("0", false, false)]
    [InlineData("1", true, false)]
    public void Truth_has_two_canonical_spellings(string id, bool value, bool canonical)
    {
        var reading = BooleanKey.Instance.Read(id);
        Assert.Equal((new TypedValue.Boolean(value), canonical), (reading.Value, reading.IsCanonical));
        foreach (var other in new[] { "yes", "2", "-1", "truE ", "" })
            Assert.Equal(KeyFault.WrongForm, BooleanKey.Instance.Read(other).Fault);
    }

    [Theory]
    [InlineData("AV-0007", KeyFault.None)]
    [InlineData("av-0007", KeyFault.WrongForm)]
    [InlineData("AV-00071", KeyFault.TooLong)]
    [InlineData("XAV-007", KeyFault.WrongForm)]
    [InlineData("AV-000\n", KeyFault.WrongForm)]
    [InlineData("AV-０００７", KeyFault.WrongForm)]
    public void A_declared_form_separates_malformed_from_unknown(string id, KeyFault fault) =>
        Assert.Equal(fault, TextKey.Of(false, new TextForm("AV-[0-9]{4}|AW", 7, null)).Read(id).Fault);

    [Fact]
    public void Under_a_column_that_folds_case_so_does_the_form() =>
        Assert.Equal(KeyFault.None, TextKey.Of(true, new TextForm("AV-[0-9]{4}", null, null)).Read("av-0007").Fault);

    [Fact]
    public void A_pattern_that_could_take_forever_is_refused()
    {
        Assert.True(TextForm.IsPattern("(a+)+$"));
        Assert.False(TextForm.IsPattern("(a)\\1"));
        Assert.False(TextForm.IsPattern("(?=a)b"));
        Assert.False(TextForm.IsPattern("("));
        Assert.Equal(
            KeyFault.WrongForm,
            TextKey.Of(false, new TextForm("(a+)+", null, null)).Read(new string('a', 4000) + "b").Fault
        );
    }

    [Theory]
    [InlineData("32767", KeyFault.None)]
    [InlineData("32768", KeyFault.OutOfRange)]
    [InlineData("-32769", KeyFault.OutOfRange)]
    public void A_smaller_column_has_a_smaller_range(string id, KeyFault fault) =>
        Assert.Equal(fault, IntegerKey.Between(short.MinValue, short.MaxValue).Read(id).Fault);

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
