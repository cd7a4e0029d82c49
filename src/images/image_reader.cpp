// SPDX-License-Identifier: Apache-2.0
#include "images/image_reader.h"
#include "base/findings_list.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "base/allowance.h"
#include "color/color_space.h"
#include "filters/stream_decoder.h"
#include "images/codec.h"
#include "images/image_facts.h"
#include "images/image_rows.h"
#include "images/sample_colors.h"
#include "images/sample_reader.h"
#include "images/whole_samples.h"

namespace lumvet::images {
namespace {

using color::ColorSpace;
using color::Rgb;
using ImagePtr = std::shared_ptr<const Image>;

// What was said of rows that are taken from a feed, once they are.
struct Account {
  Findings& findings;
  std::uint64_t offset = 0;  // of the image
  std::size_t needed = 0;    // bytes

  void close(const RowFeed& feed) const {
    if (feed.damage()) findings.add({feed.damage()->what, offset + feed.damage()->offset, {}});
    if (feed.given() < needed)
      findings.add({"an image has " + std::to_string(feed.given()) + " bytes where " +
                        std::to_string(needed) + " belong; the rest is left blank",
                    offset,
                    {}});
  }
};

class ImageReader {
 public:
  ImageReader(const Stream& image, const ImageContext& context)
      : image_(image), context_(context), dict_(image.dict), reduction_(context.reduction) {}

  Result<ImagePtr> read(bool as_mask) {
    may_arrive_ = context_.may_arrive && !as_mask;
    LUMVET_RETURN_IF_ERROR(read_shape());
    look_at_masks();
    LUMVET_RETURN_IF_ERROR(find_samples());
    auto image = std::make_shared<Image>();
    if (is_stencil_) {
      LUMVET_RETURN_IF_ERROR(read_stencil(*image));
    } else if (as_mask) {
      LUMVET_RETURN_IF_ERROR(choose_space());
      LUMVET_RETURN_IF_ERROR(read_mask_values(*image));
    } else {
      LUMVET_RETURN_IF_ERROR(choose_space());
      LUMVET_RETURN_IF_ERROR(read_colors(*image));
      LUMVET_RETURN_IF_ERROR(read_masks(*image));
    }
    if (!as_mask && !image->arriving) keep_what_differs(*image);
    return ImagePtr(std::move(image));
  }

 private:
  // Images of one color, as what shows through a mask often is, are quicker and smaller so.
  static void keep_what_differs(Image& image) {
    if (image.mask && image.mask->is_even())
      image.mask = std::make_shared<const Image>(image.mask->one_sample());
    if (image.is_even()) image = image.one_sample();
  }

  Status read_shape() {
    const std::int64_t width = either(context_.resolver, dict_, "Width", "W").as_integer();
    const std::int64_t height = either(context_.resolver, dict_, "Height", "H").as_integer();
    constexpr std::int64_t kMostSide = 1 << 24;
    if (width < 1 || height < 1 || width > kMostSide || height > kMostSide)
      return Error(ErrorCode::malformed, "an image with impossible dimensions");
    if (static_cast<std::uint64_t>(width * height) > context_.budget.limits().pixels)
      return met_limit("an image of " + std::to_string(width) + " × " + std::to_string(height) +
                       " is beyond Limits::pixels");
    is_stencil_ = is_stencil(dict_, context_.resolver);
    const std::int64_t bits =
        is_stencil_ ? 1 : either(context_.resolver, dict_, "BitsPerComponent", "BPC").as_integer(8);
    if (bits != 1 && bits != 2 && bits != 4 && bits != 8 && bits != 16)
      return Error(ErrorCode::malformed,
                   "an image of " + std::to_string(bits) + " bits a component");
    shape_.width = static_cast<int>(width);
    shape_.height = static_cast<int>(height);
    shape_.bits = static_cast<unsigned>(bits);
    return Done{};
  }

  // Means of samples are no samples: a matte belongs to each, a key, an index and what a stencil
  // paints to their values.
  void look_at_masks() {
    const Object soft = context_.resolver.get(dict_, "SMask");
    has_matte_ = soft.as_dict().contains("Matte") || dict_.contains("Matte");
    if (has_matte_) reduction_ = 1;
    const Object mask = context_.resolver.get(dict_, "Mask");
    has_color_key_ = mask.is_array();
    may_arrive_ = may_arrive_ && soft.is_null() && mask.is_null();
    if (!has_color_key_ && !is_stencil_ && !has_indexed_space())
      wanted_of_codec_ = std::min(reduction_, 8);
  }

  // Where the samples come from; a codec may set the shape right.
  Status find_samples() {
    // A color key needs them twice, and what is small is quicker in one go.
    constexpr std::uint64_t kSmall = 1 << 20;  // pixels
    const bool is_large =
        static_cast<std::uint64_t>(shape_.width) * static_cast<std::uint64_t>(shape_.height) >
        kSmall;
    if (is_large && !has_color_key_) {
      const std::vector<filters::FilterStep> chain =
          filters::filter_chain(dict_, context_.resolver);
      const std::string_view codec = chain.size() == 1 ? chain[0].name : std::string_view();
      if (codec == "DCTDecode" || codec == "CCITTFaxDecode")
        return find_rows(codec == "DCTDecode", chain[0].parameters);
      Result<filters::StreamPieces> pieces = filters::decode_pieces(
          image_, context_.resolver, context_.budget.decoded_left(image_.length));
      if (!pieces.ok()) return std::move(pieces).error().at_offset(image_.offset);
      if (pieces->left.empty()) {
        rows_ = RowFeed(std::move(pieces->bytes));
        return Done{};
      }
    }
    LUMVET_TRY(bytes_, whole_samples());
    rows_ = RowFeed(bytes_);
    return Done{};
  }

  Status find_rows(bool is_photograph, const Dict& parameters) {
    LUMVET_TRY(ByteSlice encoded, image_.encoded());
    const std::uint64_t most_pixels = context_.budget.limits().pixels;
    Result<SampleRows> rows =
        is_photograph ? start_dct(std::move(encoded), parameters, most_pixels, wanted_of_codec_)
                      : start_ccitt(std::move(encoded), parameters, shape_.height, most_pixels);
    if (!rows.ok()) return std::move(rows).error().at_offset(image_.offset);
    shape_.width = rows->width;
    if (is_photograph) {
      shape_.height = rows->height;
      codec_reduction_ = wanted_of_codec_;
      across_ = static_cast<double>(rows->whole_width) / codec_reduction_;
      down_ = static_cast<double>(rows->whole_height) / codec_reduction_;
    }
    shape_.bits = static_cast<unsigned>(rows->bits);
    codec_components_ = static_cast<std::size_t>(rows->components);
    rows_ = RowFeed(std::move(rows->bytes));
    return Done{};
  }

  Result<ByteSlice> whole_samples() {
    LUMVET_TRY(WholeSamples whole, images::whole_samples(image_, context_,
                                                         {.width = shape_.width,
                                                          .height = shape_.height,
                                                          .keep_values = has_indexed_space(),
                                                          .reduction = wanted_of_codec_}));
    if (whole.codec.empty()) return std::move(whole.plain);
    Samples* decoded = &whole.decoded;
    // Facsimile rows know their width, but the dictionary says how many there are.
    if (whole.codec != "CCITTFaxDecode") shape_.height = decoded->height;
    shape_.width = decoded->width;
    shape_.bits = static_cast<unsigned>(decoded->bits);
    codec_reduction_ = decoded->reduction;
    shift_ = decoded->shift;
    if (codec_reduction_ > 1) {
      across_ = static_cast<double>(decoded->whole_width) / codec_reduction_;
      down_ = static_cast<double>(decoded->whole_height) / codec_reduction_;
    }
    codec_components_ = static_cast<std::size_t>(decoded->components);
    opacity_ = std::move(decoded->alpha);
    profile_ = std::move(decoded->profile);
    constexpr std::int64_t kMultiplied = 2;
    if (context_.resolver.get(dict_, "SMaskInData").as_integer() == kMultiplied)
      divide_by_opacity(decoded->bytes);
    return ByteSlice(std::move(decoded->bytes));
  }

  // Colors of a byte each that were multiplied by the image's own opacity (table 87).
  void divide_by_opacity(Bytes& colors) const {
    if (opacity_.empty() || shape_.bits != 8) return;
    for (std::size_t i = 0; i < opacity_.size(); ++i) {
      const unsigned opacity = opacity_[i];
      if (opacity == 0 || opacity == 255) continue;
      for (std::size_t k = 0; k < codec_components_; ++k) {
        std::uint8_t& color = colors[i * codec_components_ + k];
        color = static_cast<std::uint8_t>(std::min(255u, (color * 255u + opacity / 2) / opacity));
      }
    }
  }

  bool has_indexed_space() const {
    const Object space = either(context_.resolver, dict_, "ColorSpace", "CS");
    return !space.as_array().empty() &&
           context_.resolver.resolve(space.as_array()[0]).is_name("Indexed");
  }

  Status choose_space() {
    Object stated = either(context_.resolver, dict_, "ColorSpace", "CS");
    if (stated.is_null() && !profile_.empty())
      stated = Array{Object::name("ICCBased"),
                     Object(Stream::of(
                         {{"N", Object(static_cast<std::int64_t>(codec_components_))}}, profile_))};
    if (!stated.is_null()) {
      auto made = ColorSpace::make(stated, context_.resources, context_.resolver, context_.budget,
                                   context_.findings);
      if (made.ok() && !(*made)->is_pattern())
        space_ = color::by_intent(*std::move(made), context_.intent);
      if (!made.ok()) context_.findings.add({made.error().message(), image_.offset, {}});
    }
    if (codec_components_ != 0 && (!space_ || space_->components() != codec_components_)) {
      if (space_)
        context_.findings.add(
            {"an image has another number of colors than its color space", image_.offset, {}});
      space_ = codec_components_ == 1   ? ColorSpace::gray()
               : codec_components_ == 3 ? ColorSpace::rgb()
                                        : ColorSpace::cmyk();
    }
    if (!space_) {
      context_.findings.add(
          {"an image without a usable color space; gray was taken", image_.offset, {}});
      space_ = ColorSpace::gray();
    }
    shape_.components = space_->components();
    read_decode(space_->default_decode(shape_.bits));
    return Done{};
  }

  void read_decode(std::vector<double> standard) {
    const Object stated = either(context_.resolver, dict_, "Decode", "D");
    shape_.decode = std::move(standard);
    has_own_decode_ = false;
    if (stated.as_array().size() < shape_.decode.size()) return;
    for (std::size_t i = 0; i < shape_.decode.size(); ++i) {
      const double value = context_.resolver.resolve(stated.as_array()[i]).as_number();
      has_own_decode_ = has_own_decode_ || value != shape_.decode[i];
      shape_.decode[i] = value;
    }
  }

  // Rows of the image itself. Data that is cut off leaves a part blank; next to none means that
  // the dimensions are made up.
  Status read_rows(Image& image, std::uint8_t blank, ImageRows::Convert convert) {
    const bool comes_in_rows = rows_.comes_in_pieces();
    const Account account{context_.findings, image_.offset,
                          shape_.row_bytes() * static_cast<std::size_t>(shape_.height)};
    auto rows = std::make_shared<ImageRows>(
        image, plan(std::move(rows_), shape_.row_bytes(), blank, std::move(convert)));
    place(image);
    constexpr int kLeastPart = 1024;
    const int first_rows = shape_.height / kLeastPart + 1;
    LUMVET_RETURN_IF_ERROR(take_rows(*rows, first_rows));
    if (rows->feed().given() < account.needed / kLeastPart)
      return Error(ErrorCode::malformed, "an image has " + std::to_string(rows->feed().given()) +
                                             " bytes where " + std::to_string(account.needed) +
                                             " belong")
          .at_offset(image_.offset);
    if (may_arrive_ && comes_in_rows && opacity_.empty()) {
      image.arriving = std::make_shared<ArrivingRows>(image.height, [rows, account] {
        if (const Status taken = rows->next(); !taken.ok())
          account.findings.add({taken.error().message(), account.offset, {}});
        if (rows->at_end()) account.close(rows->feed());
        return rows->rows_made();
      });
      return Done{};
    }
    LUMVET_RETURN_IF_ERROR(take_rows(*rows, shape_.height));
    account.close(rows->feed());
    return Done{};
  }

  // Of others, which are as many and as wide.
  Status read_all_rows(RowFeed feed, std::size_t row_bytes, Image& image, std::uint8_t blank,
                       ImageRows::Convert convert) {
    ImageRows rows(image, plan(std::move(feed), row_bytes, blank, std::move(convert)));
    place(image);
    return take_rows(rows, shape_.height);
  }

  ImageRows::Plan plan(RowFeed feed, std::size_t row_bytes, std::uint8_t blank,
                       ImageRows::Convert convert) const {
    return {.rows = std::move(feed),
            .row_bytes = row_bytes,
            .width = shape_.width,
            .height = shape_.height,
            .by = reduction_left(),
            .blank = blank,
            .convert = std::move(convert)};
  }

  // What a codec has not done.
  int reduction_left() const { return std::max(1, reduction_ / codec_reduction_); }

  void place(Image& image) const {
    const int by = reduction_left();
    image.shift = shift_ / by;
    if (across_ > 0) {
      image.across = across_ / by;
      image.down = down_ / by;
    }
  }

  Status take_rows(ImageRows& rows, int count) const {
    for (int i = 0; i < count && !rows.at_end(); ++i) {
      LUMVET_RETURN_IF_ERROR(go_on_now());
      LUMVET_RETURN_IF_ERROR(rows.next());
    }
    return Done{};
  }

  // A sheet in black and white stays as small as it is.
  bool stays_packed() const {
    constexpr std::int64_t kLarge = 1 << 18;  // samples
    return shape_.bits == 1 && reduction_ == 1 && !has_matte_ &&
           std::int64_t{shape_.width} * shape_.height >= kLarge;
  }

  Status keep_bits(Image& image, std::uint8_t zero, std::uint8_t one, std::uint8_t blank) {
    image.is_packed = true;
    image.zero = zero;
    image.one = one;
    return read_rows(
        image, static_cast<std::uint8_t>(blank == zero ? 0 : 255),
        [](ByteView row, std::uint8_t* out) { std::copy(row.begin(), row.end(), out); });
  }

  Status read_stencil(Image& image) {
    shape_.components = 1;
    read_decode({0, 1});
    const std::uint8_t of_ones = shape_.decode[0] == 1 ? 255 : 0;
    image.kind = Image::Kind::coverage;
    if (stays_packed())
      return keep_bits(image, static_cast<std::uint8_t>(255 - of_ones), of_ones, 0);
    const auto of_zeros = static_cast<std::uint8_t>(255 - of_ones);
    return read_rows(image, 0, [=, shape = shape_](ByteView row, std::uint8_t* out) {
      if (shape.bits == 1)
        return expand_bits(row, static_cast<std::size_t>(shape.width), of_zeros, of_ones, out);
      // A codec may have its own mind about the bits.
      SampleReader reader(row, shape.bits);
      for (std::size_t x = 0; x < shape.samples_in(row); ++x)
        out[x] = reader.next() != 0 ? of_ones : of_zeros;
    });
  }

  // Soft masks: the gray value is the opacity.
  Status read_mask_values(Image& image) {
    image.kind = Image::Kind::coverage;
    if (shape_.components == 1) return read_by_table(image);
    return read_rows(
        image, 255,
        [raw = std::vector<unsigned>(shape_.components), shape = shape_,
         colors = ColorReader(shape_, space_)](ByteView row, std::uint8_t* out) mutable {
          SampleReader reader(row, shape.bits);
          for (std::size_t x = shape.samples_in(row); x > 0; --x) {
            for (unsigned& value : raw) value = reader.next();
            *out++ = to_byte(colors.color_of(raw).green);
          }
        });
  }

  Status read_colors(Image& image) {
    if (shape_.components == 1) return read_by_table(image);
    image.kind = Image::Kind::rgb;
    if (shape_.bits != 8 || has_own_decode_) return read_by_value(image);
    if (space_ == ColorSpace::rgb())
      return read_rows(image, 255, [](ByteView row, std::uint8_t* out) {
        std::copy(row.begin(), row.end(), out);
      });
    return read_rows(image, 255, [shape = shape_, space = space_](ByteView row, std::uint8_t* out) {
      space->row_to_rgb(row.data(), shape.samples_in(row), out);
    });
  }

  // One component: every value it can have is converted once. Of 16 bits the upper 8 count. What
  // comes out gray, as most scans do, is kept as such.
  Status read_by_table(Image& image) {
    const std::size_t count = std::size_t{1} << std::min(shape_.bits, 8u);
    std::vector<std::uint8_t> table(count * 3);
    ColorReader colors(shape_, space_);
    for (unsigned raw = 0; raw < count; ++raw)
      put(colors.color_of({shape_.bits == 16 ? raw * 257 : raw}), &table[raw * 3]);
    std::vector<std::uint8_t> grays;
    for (std::size_t i = 0; i < count; ++i) grays.push_back(table[3 * i + 1]);
    bool is_gray = true;
    for (std::size_t i = 0; i < table.size(); ++i) is_gray = is_gray && table[i] == grays[i / 3];
    const bool is_mask = image.kind == Image::Kind::coverage;
    if (is_gray && !is_mask) image.kind = Image::Kind::gray;
    if (image.kind != Image::Kind::rgb && stays_packed())
      return keep_bits(image, grays[0], grays[1], 255);
    const unsigned unused = shape_.bits == 16 ? 8 : 0;
    const bool is_rgb = image.kind == Image::Kind::rgb;
    return read_rows(image, 255, [=, shape = shape_](ByteView row, std::uint8_t* out) {
      const std::size_t there = shape.samples_in(row);
      if (!is_rgb && shape.bits == 1) return expand_bits(row, there, grays[0], grays[1], out);
      SampleReader reader(row, shape.bits);
      if (is_rgb)
        for (std::size_t x = 0; x < there; ++x, out += 3)
          std::copy_n(&table[std::size_t{reader.next() >> unused} * 3], 3, out);
      else if (shape.bits == 8)
        for (std::size_t x = 0; x < there; ++x) out[x] = grays[row[x]];
      else
        for (std::size_t x = 0; x < there; ++x) out[x] = grays[reader.next() >> unused];
    });
  }

  // Several components: neighbors are often equal, so the last conversion is kept.
  Status read_by_value(Image& image) {
    struct Known {
      std::vector<unsigned> raw;
      std::uint8_t color[3] = {};
    };
    return read_rows(
        image, 255,
        [raw = std::vector<unsigned>(shape_.components), last = Known{}, shape = shape_,
         colors = ColorReader(shape_, space_)](ByteView row, std::uint8_t* out) mutable {
          SampleReader reader(row, shape.bits);
          for (std::size_t x = shape.samples_in(row); x > 0; --x, out += 3) {
            for (unsigned& value : raw) value = reader.next();
            if (raw != last.raw) {
              put(colors.color_of(raw), last.color);
              last.raw = raw;
            }
            std::copy_n(last.color, 3, out);
          }
        });
  }

  Status read_masks(Image& image) {
    const Object soft = context_.resolver.get(dict_, "SMask");
    const Object hard = context_.resolver.get(dict_, "Mask");
    if (const Stream* mask = soft.as_stream()) {
      LUMVET_RETURN_IF_ERROR(attach(*mask, image));
      return take_out_matte(mask->dict, image);
    }
    if (const Stream* mask = hard.as_stream()) return attach(*mask, image);
    if (hard.is_array()) {
      LUMVET_RETURN_IF_ERROR(attach_color_key(hard.as_array(), image));
    } else if (!opacity_.empty() && context_.resolver.get(dict_, "SMaskInData").as_integer() != 0) {
      auto mask = std::make_shared<Image>();
      mask->kind = Image::Kind::coverage;
      LUMVET_RETURN_IF_ERROR(read_all_rows(
          RowFeed(ByteSlice(std::move(opacity_))), static_cast<std::size_t>(shape_.width), *mask,
          255, [](ByteView row, std::uint8_t* out) { std::copy(row.begin(), row.end(), out); }));
      image.mask = std::move(mask);
    }
    return Done{};
  }

  // A mask that cannot be read leaves the image opaque.
  Status attach(const Stream& mask, Image& image) {
    const Budget::Depth depth(context_.budget);
    if (!depth.ok()) return met_limit("masks have masks deeper than Limits::nesting");
    // Opacities are no colors, which another space could be put in place of (8.6.5.6).
    const Dict no_resources;
    const ImageContext context{.resources = no_resources,
                               .resolver = context_.resolver,
                               .budget = context_.budget,
                               .findings = context_.findings,
                               .intent = context_.intent,
                               .reduction = reduction_of(mask.dict, image),
                               .may_arrive = context_.may_arrive};
    Result<ImagePtr> read = ImageReader(mask, context).read(true);
    if (!read.ok() && read.error().code() == ErrorCode::cancelled) return std::move(read).error();
    if (!read.ok()) {
      context_.findings.add(
          {read.error().message() + "; an image is shown without its mask", mask.offset, {}});
      return Done{};
    }
    // An explicit mask shows the image where, as a stencil, it would paint (8.9.6.3).
    image.mask = *std::move(read);
    return Done{};
  }

  // By which a mask becomes about as fine as its image, or finer.
  int reduction_of(const Dict& mask, const Image& image) const {
    const double width = either(context_.resolver, mask, "Width", "W").as_number();
    const double height = either(context_.resolver, mask, "Height", "H").as_number();
    const double most = std::min(width / image.across, height / image.down);
    int by = 1;
    while (by * 2 <= std::min(most, static_cast<double>(reduction_))) by *= 2;
    return by;
  }

  // Samples that were mixed with a color beforehand, in proportion to the mask (11.6.5.2).
  Status take_out_matte(const Dict& mask, Image& image) {
    const Object stated = context_.resolver.get(mask, "Matte");
    if (stated.is_null() || !image.mask) return Done{};
    const Image& opacity = *image.mask;
    if (stated.as_array().size() != shape_.components || opacity.width != image.width ||
        opacity.height != image.height) {
      context_.findings.add(
          {"a soft mask's matte does not fit its image; it was ignored", image_.offset, {}});
      return Done{};
    }
    std::vector<double> values;
    for (const Object& value : stated.as_array())
      values.push_back(context_.resolver.resolve(value).as_number());
    const Rgb matte = space_->to_rgb(values);
    const double channels[] = {matte.red * 255, matte.green * 255, matte.blue * 255};
    std::uint8_t* sample = image.samples.data();
    const auto count = static_cast<std::size_t>(image.channels());
    for (const std::uint8_t alpha : opacity.samples) {
      for (std::size_t k = 0; k < count; ++k, ++sample)
        if (alpha != 0)
          *sample = to_byte((channels[k] + (*sample - channels[k]) * 255 / alpha) / 255);
    }
    return Done{};
  }

  // Colors within the ranges are not painted (8.9.6.4).
  Status attach_color_key(const Array& ranges, Image& image) {
    if (ranges.size() < 2 * shape_.components) return Done{};
    auto mask = std::make_shared<Image>();
    mask->kind = Image::Kind::coverage;
    const auto is_hidden = [&](SampleReader& reader) {
      bool hidden = true;
      for (std::size_t k = 0; k < shape_.components; ++k) {
        const std::int64_t raw = reader.next();
        hidden =
            hidden && raw >= ranges[2 * k].as_integer() && raw <= ranges[2 * k + 1].as_integer();
      }
      return hidden;
    };
    LUMVET_RETURN_IF_ERROR(read_all_rows(RowFeed(bytes_), shape_.row_bytes(), *mask, 255,
                                         [&](ByteView row, std::uint8_t* out) {
                                           SampleReader reader(row, shape_.bits);
                                           for (std::size_t x = 0; x < shape_.samples_in(row); ++x)
                                             out[x] = is_hidden(reader) ? 0 : 255;
                                         }));
    image.mask = std::move(mask);
    return Done{};
  }

  const Stream& image_;
  const ImageContext& context_;
  const Dict& dict_;
  Shape shape_;
  ByteSlice bytes_;  // where all are there at once
  RowFeed rows_;
  std::shared_ptr<const ColorSpace> space_;
  std::size_t codec_components_ = 0;  // as the codec says; 0 without one
  Bytes opacity_;                     // out of the codec, a byte a pixel
  Bytes profile_;                     // out of the codec; empty without one
  int reduction_;                     // of the image, 1 or a power of 2
  int wanted_of_codec_ = 1;           // of that, what a codec may do
  int codec_reduction_ = 1;           // and what it did
  double across_ = 0;                 // samples that the codec's whole image is wide; 0 without one
  double down_ = 0;
  double shift_ = 0;
  bool has_color_key_ = false;
  bool has_matte_ = false;  // or is the mask of an image that has one
  bool is_stencil_ = false;
  bool has_own_decode_ = false;
  bool may_arrive_ = false;  // later than the image is given
};

}  // namespace

Result<ImagePtr> read_image(const Stream& image, const ImageContext& context) {
  return ImageReader(image, context).read(false);
}

}  // namespace lumvet::images
